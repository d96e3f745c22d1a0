import type { Metadata } from "next";
import { DEMO_PASSWORD, mailOf, PEOPLE } from "@demo/people";
import { SignIn } from "@/ui/people/sign-in";

export const metadata: Metadata = { title: "Sign in" };
export const dynamic = "force-dynamic";

export default function SignInPage() {
  const demo = process.env.ZIGZAG_DEMO === "1";
  return (
    <SignIn
      demo={demo ? { password: DEMO_PASSWORD, people: PEOPLE.map((p) => ({ id: p.id, name: p.name, calling: p.calling, mail: mailOf(p) })) } : null}
      signUp={process.env.ZIGZAG_SIGN_UP === "open"}
    />
  );
}
