import Link from "next/link";

/** Where nothing that is looked at above the projects is in anybody's hands. */
export const EmptyPlace = ({ placeKey }: { placeKey: string }) => (
  <div className="mx-auto max-w-[460px] py-10 text-ink-soft">
    <p className="font-semibold text-ink">
      {placeKey === "mine" ? "Nothing is yours just now." : "Nothing stands here."}
    </p>
    <p>
      {placeKey === "mine"
        ? "What you work on or review comes here, from all projects, with the large pieces that it is part of. What your teams have is one stop on."
        : "What comes into its projects comes here too."}{" "}
      {placeKey === "mine" && (
        <Link href="/across/mine?as=table" className="link">
          Also what is finished, as a table
        </Link>
      )}
    </p>
  </div>
);
