import type { Metadata } from "next";
import { DEMO_PASSWORD, mailOf, PEOPLE } from "@demo/people";
import { mayMakeAccount, nobodyYet, worldOf } from "@/server/people/installation";
import { mailGoesOut } from "@/server/people/letters";
import { ownPage } from "@/app/asked-page";
import { SignIn } from "@/ui/people/sign-in";

export const metadata: Metadata = { title: "Sign in" };
export const dynamic = "force-dynamic";

export default async function SignInPage({
  searchParams,
}: {
  searchParams: Promise<{ to?: string | string[] }>;
}) {
  const { to } = await searchParams;
  const [world, signUp, first] = await Promise.all([worldOf(), mayMakeAccount(), nobodyYet()]);
  const demo = world === "demo";
  return (
    <SignIn
      demo={
        demo
          ? {
              password: DEMO_PASSWORD,
              people: PEOPLE.map((p) => ({
                id: p.id,
                name: p.name,
                calling: p.calling,
                mail: mailOf(p),
              })),
            }
          : null
      }
      signUp={signUp}
      first={first}
      mailGoesOut={mailGoesOut()}
      to={ownPage(typeof to === "string" ? to : null)}
    />
  );
}
