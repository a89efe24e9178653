import { defaultRangeExtractor, useWindowVirtualizer } from "@tanstack/react-virtual";
import { Fragment, memo, useCallback, useEffect, useRef } from "react";

import type { Schemas } from "../../../api/client";
import { type Row, valueOf } from "../../../domain/tags";
import { useTop } from "../../../parts/top";
import { Select } from "../../../ui/select";
import { TagInput } from "./tag-input";
import type { ChangeTags } from "./use-edits";

/** The tags that stand in the table, with their widths; all others are below it. */
const COLUMNS: readonly (readonly [string, string])[] = [
  ["kind", "w-[96px]"],
  ["show", "w-[150px]"],
  ["season", "w-[58px]"],
  ["episode", "w-[62px]"],
  ["title", "w-[200px]"],
  ["year", "w-[62px]"],
  ["genre", "w-[104px]"],
  ["director", "w-[140px]"],
];
export const IN_TABLE = COLUMNS.map(([name]) => name);

interface Props {
  tags: Schemas["Tags"];
  at: { row: number; tag: string };
  onAt: (at: { row: number; tag: string }) => void;
  onChange: ChangeTags;
}

const ROW_PX = 51;
const OVERSCAN = 12;

/** A row for each title, drawn where it is seen; up, down and Enter go from row to row as in a sheet. */
export function NamesTable({ tags, at, onAt, onChange }: Props) {
  const table = useRef<HTMLTableElement>(null);
  const { rows, top, body } = useRows(tags.titles, at.row);
  const goTo = useCallback((row: number, tag: string) => {
    const here = document.activeElement;
    const cell = table.current?.querySelector<HTMLInputElement>(`[data-cell="${row} ${tag}"]`);
    // what was typed is kept when it is left: at the last row too, where nothing is behind it
    if (here instanceof HTMLElement) here.blur();
    if (cell) {
      cell.focus();
      cell.select();
    } else if (here instanceof HTMLElement) here.focus();
  }, []);
  const drawn = rows.getVirtualItems();
  const end = drawn.at(-1)?.end ?? top;
  return (
    <div className="flex-1 border-y border-hairline bg-raised max-xl:overflow-x-auto">
      <table
        ref={table}
        aria-rowcount={tags.titles.length + 1}
        className="w-full min-w-[1100px] table-fixed border-collapse text-left"
      >
        <caption className="sr-only">Names and tags</caption>
        <thead className="top-[60px] z-10 bg-raised xl:sticky">
          <tr className="border-b border-hairline text-[12.5px] text-quiet">
            <th className="left-0 w-[240px] bg-raised px-6 py-2 font-normal max-xl:sticky max-md:w-[150px] max-md:px-3">
              Title and file
            </th>
            {COLUMNS.map(([name, width]) => (
              <th key={name} className={`px-3 py-2 font-normal ${width}`}>
                {tags.fields.find((field) => field.name === name)?.label}
              </th>
            ))}
          </tr>
        </thead>
        <tbody ref={body}>
          {drawn.map((item, place) => {
            const row = tags.titles[item.index];
            const gap = item.start - (drawn[place - 1]?.end ?? top);
            return (
              row && (
                <Fragment key={item.key}>
                  <Space px={gap} />
                  <TableRow
                    row={row}
                    place={item.index}
                    measure={rows.measureElement}
                    current={at.row === item.index}
                    tags={tags}
                    onAt={onAt}
                    goTo={goTo}
                    onChange={onChange}
                  />
                </Fragment>
              )
            );
          })}
          <Space px={rows.getTotalSize() + top - end} />
        </tbody>
      </table>
    </div>
  );
}

/** Which rows are drawn: those in view, and the one that is looked at, since something may be typed in it. */
function useRows(titles: readonly Row[], current: number) {
  const { part: body, top } = useTop<HTMLTableSectionElement>();
  const rows = useWindowVirtualizer({
    count: titles.length,
    estimateSize: () => ROW_PX,
    getItemKey: useCallback((index: number) => titles[index]?.title_id ?? index, [titles]),
    scrollMargin: top,
    overscan: OVERSCAN,
    rangeExtractor: useCallback(
      (range: Parameters<typeof defaultRangeExtractor>[0]) =>
        [...new Set([...defaultRangeExtractor(range), current])]
          .filter((index) => index < range.count)
          .sort((one, other) => one - other),
      [current],
    ),
  });
  const opened = useRef(current);
  useEffect(() => {
    if (opened.current > 0) rows.scrollToIndex(opened.current, { align: "center" });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only where the sheet was opened at
  }, []);
  return { rows, top, body };
}

/** Rows that are not drawn. */
function Space({ px }: { px: number }) {
  if (px < 1) return null;
  return (
    <tr aria-hidden style={{ height: px }}>
      <td colSpan={COLUMNS.length + 1} />
    </tr>
  );
}

interface RowProps {
  row: Row;
  measure: (row: HTMLTableRowElement | null) => void;
  place: number;
  current: boolean;
  tags: Schemas["Tags"];
  onAt: Props["onAt"];
  goTo: (row: number, tag: string) => void;
  onChange: Props["onChange"];
}

const TableRow = memo(function TableRow(props: RowProps) {
  const { row, place, measure, current, tags, onAt, goTo, onChange } = props;
  const kinds = tags.fields.find(({ name }) => name === "kind")?.choices ?? [];
  const give = (tag: string, label: string, value: string | null) =>
    onChange(label, [{ title_id: row.title_id, tag, value }]);
  return (
    <tr
      ref={measure}
      data-index={place}
      aria-rowindex={place + 2}
      className={`border-b border-hairline ${current ? "bg-mist" : ""}`}
    >
      <th
        scope="row"
        className={`left-0 z-[5] px-6 py-1.5 font-normal max-xl:sticky max-md:px-3 ${current ? "bg-mist" : "bg-raised"}`}
      >
        <span className="block truncate" title={`${row.title_name}, ${row.source_name}`}>
          {row.title_name}
        </span>
        <span className="block truncate text-[12.5px] text-quiet" title={row.file_name}>
          {row.file_name}
        </span>
      </th>
      {COLUMNS.map(([name]) => {
        const label = tags.fields.find((field) => field.name === name)?.label ?? name;
        return (
          <td
            key={name}
            className="border-l border-hairline px-1 py-1"
            onFocus={() => onAt({ row: place, tag: name })}
          >
            {name === "kind" ? (
              <Select
                label={`Kind of ${row.title_name}`}
                value={valueOf(row, "kind") || "film"}
                choices={kinds}
                onChange={(value) => void give("kind", label, value)}
              />
            ) : (
              <TagInput
                label={`${label} of ${row.title_name}`}
                cell={`${place} ${name}`}
                tag={row.tags[name]}
                lookBelow={tags.look_below}
                onValue={(value) => give(name, label, value)}
                onMove={(by) => goTo(place + by, name)}
              />
            )}
          </td>
        );
      })}
    </tr>
  );
});
