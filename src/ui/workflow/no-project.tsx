import Link from "next/link";
import { Mark } from "@/ui/kit/mark";

/**
 * For somebody who has an account and may not start a project: what to do, and where else to go.
 */
export function NoProject({ name }: { name: string }) {
  return (
    <main className="mx-auto flex max-w-md flex-col gap-3 px-6 py-24">
      <Mark size={40} />
      <h1 className="text-[22px]">Welcome, {name.split(" ")[0]}</h1>
      <p>
        Projects are started by administrators and by people who lead or work in one. Ask one of
        them to add you to a project: it is open to you at once.
      </p>
      <p>
        <Link href="/" className="link">
          Look again
        </Link>
      </p>
    </main>
  );
}
