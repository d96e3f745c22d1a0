"use client";
import { Button } from "@/ui/kit/button";

/** When a page could not be made: what happened, that nothing was lost, and what to do. */
export default function ErrorPage({ reset }: { error: Error; reset: () => void }) {
  return (
    <main role="alert" className="mx-auto flex max-w-md flex-col gap-3 px-6 py-24">
      <h1 className="text-[22px]">This page could not be made</h1>
      <p>The database may be away for a moment. Nothing was lost.</p>
      <p>
        <Button look="strong" onClick={() => reset()}>
          Try again
        </Button>
      </p>
    </main>
  );
}
