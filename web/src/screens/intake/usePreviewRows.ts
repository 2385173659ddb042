import type { Remote } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import type { FileReading, PreviewRow, RowFilter } from '../../workers/fileReading.ts';

/** Rows are fetched from the worker so many at a time. */
const PAGE = 200;

/** Which rows of a file are wanted. */
interface RowsWanted {
  /** Of which of the file's statements. */
  readonly index: number;
  readonly filter: RowFilter;
  /** Changes when the rows do. */
  readonly version: unknown;
}

/** The rows between two positions, as far as they have come from the worker. */
export function usePreviewRows(
  reading: Remote<FileReading> | null,
  { index, filter, version }: RowsWanted,
  { from, to }: { readonly from: number; readonly to: number },
): (position: number) => PreviewRow | null {
  const [pages, setPages] = useState<ReadonlyMap<number, readonly PreviewRow[]>>(new Map());
  const asked = useRef(new Set<number>());

  // biome-ignore lint/correctness/useExhaustiveDependencies: other rows make the pages so far useless
  useEffect(() => {
    asked.current = new Set();
    setPages(new Map());
  }, [reading, index, filter, version]);

  useEffect(() => {
    if (reading === null || version === null) return;
    const current = asked.current;
    for (let page = Math.floor(from / PAGE); page * PAGE <= to; page += 1) {
      if (current.has(page)) continue;
      current.add(page);
      void reading.rows(index, filter, page * PAGE, PAGE).then((rows) => {
        if (asked.current === current) setPages((before) => new Map(before).set(page, rows));
      });
    }
  }, [reading, index, filter, version, from, to]);

  return (position) => pages.get(Math.floor(position / PAGE))?.[position % PAGE] ?? null;
}
