import { counted } from "@/core/formats/counted";
import { objectionsOf, type DeployForecast } from "@/core/ship/what-is-where-view";

const LISTED = 8;

/** What a deployment would bring, and take away. */
export function Forecast({
  forecast: { brings, takes, commits, hidden },
}: {
  forecast: DeployForecast;
}) {
  const objections = new Map(objectionsOf(brings).map((one) => [one.key, one.objection]));
  const nothing = commits.come === 0 && commits.go === 0;
  return (
    <div className="flex flex-col gap-2" role="status">
      <p>
        {nothing
          ? "It would change nothing: all of it is there."
          : [
              commits.come > 0 && `It brings ${counted(commits.come, "commit")}`,
              commits.go > 0 &&
                `${commits.come > 0 ? "and takes" : "It takes"} ${counted(commits.go, "commit")} away`,
            ]
              .filter(Boolean)
              .join(" ")}
        {!nothing && (brings.length > 0 ? `, with ${counted(brings.length, "item")}:` : ".")}
      </p>
      <ForecastItems rows={brings} objections={objections} />
      {takes.length > 0 && (
        <>
          <p className="font-semibold text-signal-ink">
            {counted(takes.length, "item")} would not be there any more:
          </p>
          <ForecastItems rows={takes} objections={new Map()} />
        </>
      )}
      {hidden > 0 && (
        <p className="text-[13px] text-ink-soft">
          {counted(hidden, "more item")} outside your view.
        </p>
      )}
    </div>
  );
}

function ForecastItems({
  rows,
  objections,
}: {
  rows: DeployForecast["brings"];
  objections: ReadonlyMap<string, string>;
}) {
  const graveFirst = rows.toSorted(
    (a, b) => Number(objections.has(b.key)) - Number(objections.has(a.key)),
  );
  return (
    <ul className="text-[13px]">
      {graveFirst.slice(0, LISTED).map(({ key, title }) => (
        <li key={key} className="flex items-baseline gap-2">
          <span className="key shrink-0">{key}</span>
          <span className="min-w-0 flex-1 truncate">{title}</span>
          {objections.has(key) && (
            <b
              className={`shrink-0 ${objections.get(key) === "failed its test" ? "text-alarm" : "text-signal-ink"}`}
            >
              {objections.get(key)}
            </b>
          )}
        </li>
      ))}
      {rows.length > LISTED && (
        <li className="text-ink-soft">and {counted(rows.length - LISTED, "more item")}</li>
      )}
    </ul>
  );
}
