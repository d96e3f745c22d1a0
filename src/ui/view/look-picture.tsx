import { counted } from "@/core/formats/counted";
import type { Picture } from "@/core/view/picture";

/** So many marks a column of a picture draws; more are a number. */
const MOST_MARKS = 9;

/** A small picture of what a look shows. */
export function LookPicture({ picture }: { picture: Picture | null }) {
  return (
    <span className="look-picture" aria-hidden={picture === null}>
      <span className="look-picture-total">{picture ? counted(picture.total, "item") : " "}</span>
      {picture === null ? null : picture.total === 0 ? (
        <span className="text-[12px] text-ink-soft">Nothing is like that now.</span>
      ) : picture.kind === "board" ? (
        <BoardPicture {...picture} />
      ) : picture.kind === "groups" ? (
        <GroupsPicture {...picture} />
      ) : (
        <RowsPicture {...picture} />
      )}
    </span>
  );
}

/** Columns with a mark for each item, lane below lane. */
function BoardPicture({ columns, lanes }: Extract<Picture, { kind: "board" }>) {
  const most = Math.max(1, Math.floor(MOST_MARKS / lanes.length));
  return (
    <span className="flex min-h-0 flex-1 flex-col gap-[2px]">
      <span className="look-columns">
        {columns.map(({ name }, i) => (
          <span key={i} className="truncate text-[9px] leading-[12px] text-ink-soft">
            {name}
          </span>
        ))}
      </span>
      {lanes.map(({ name, counts }, lane) => (
        <span key={lane} className="block">
          {name && <span className="block text-[9px] leading-[10px] text-ink-soft">{name}</span>}
          <span className="look-columns">
            {counts.map((count, i) => (
              <span
                key={i}
                className={`flex flex-col gap-[2px] p-[1px] ${columns[i].working ? "" : "hatch"}`}
                title={`${columns[i].name}: ${count}`}
              >
                {Array.from({ length: Math.min(count, most) }, (_, mark) => (
                  <span key={mark} className="look-mark" />
                ))}
                {count > most && (
                  <span className="text-[9px] leading-[9px] text-ink-soft">+{count - most}</span>
                )}
              </span>
            ))}
          </span>
        </span>
      ))}
    </span>
  );
}

function GroupsPicture({ groups }: Extract<Picture, { kind: "groups" }>) {
  const most = Math.max(...groups.map(({ count }) => count));
  return (
    <span className="flex flex-col gap-[4px]">
      {groups.map(({ label, count }) => (
        <span key={label} className="grid grid-cols-[76px_1fr_22px] items-center gap-1.5">
          <span className="truncate text-[11px]">{label}</span>
          <span className="look-bar" style={{ width: `${(count / most) * 100}%` }} />
          <span className="figures text-right text-[11px]">{count}</span>
        </span>
      ))}
    </span>
  );
}

function RowsPicture({ rows }: Extract<Picture, { kind: "rows" }>) {
  return (
    <span className="flex flex-col">
      {rows.map(({ key, title, value }) => (
        <span key={key} className="flex gap-1.5 border-b border-line py-[3px] text-[11px]">
          <span className="min-w-0 flex-1 truncate">{title}</span>
          <span className="shrink-0 text-ink-soft">{value}</span>
        </span>
      ))}
    </span>
  );
}
