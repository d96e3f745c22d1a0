import Link from "next/link";
import { Mark } from "@/ui/kit/mark";

export default function NotFound() {
  return (
    <main className="mx-auto flex max-w-md flex-col gap-3 px-6 py-24">
      <Mark size={40} />
      <h1 className="text-[22px]">Nothing here that you can see</h1>
      <p>
        The address may be mistyped, or it belongs to a project that you have not been added to.
      </p>
      <p>
        <Link href="/" className="link">
          To your board
        </Link>
      </p>
    </main>
  );
}
