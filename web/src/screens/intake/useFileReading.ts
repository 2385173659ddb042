import type { KeptLayout } from '@zubrell/contract/intake';
import { ZubrellError } from '@zubrell/core/errors';
import { type LayoutChoices, shapeOf } from '@zubrell/core/formats/table/tableLayout';
import { t } from '@zubrell/core/words/t';
import { proxy, type Remote } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import type { FileReading, FileSummary } from '../../workers/fileReading.ts';
import { type OpenReading, openFileReading } from '../../workers/openFileReading.ts';

/** How reading a file stands. */
export type ReadState =
  | { readonly kind: 'reading'; readonly share: number }
  | { readonly kind: 'read'; readonly summary: FileSummary }
  | { readonly kind: 'failed'; readonly message: string };

/** A file under preview. */
export interface FileInHand {
  readonly state: ReadState;
  readonly reading: Remote<FileReading> | null;
  /** What was chosen of a table's layout, by hand or when the last such file was kept. */
  readonly choices: LayoutChoices;
  /** The layout kept from files of the same shape, if it is used. */
  readonly kept: KeptLayout | null;
  readonly choose: (changed: LayoutChoices) => void;
  /** Reads it again as it could be read last; null where it never could. */
  readonly goBack: (() => void) | null;
}

/**
 * Reads a file in a worker as soon as it is there, and again when another layout is chosen. A table of
 * a shape that was kept before is read as it was then. The worker ends with the component.
 *
 * @param layouts layouts kept so far; null while they are not known
 */
export function useFileReading(
  source: File,
  currency: string,
  layouts: readonly KeptLayout[] | null,
): FileInHand {
  const [state, setState] = useState<ReadState>({ kind: 'reading', share: 0 });
  const [choices, setChoices] = useState<LayoutChoices>({});
  const [kept, setKept] = useState<KeptLayout | null>(null);
  const [readable, setReadable] = useState<LayoutChoices | null>(null);
  const open = useRef<OpenReading | null>(null);
  const isAsked = useRef(false);
  const isReady = layouts !== null;

  // biome-ignore lint/correctness/useExhaustiveDependencies: a file is read once; layouts as they stood then
  useEffect(() => {
    if (!isReady) return;
    const own = openFileReading();
    open.current = own;
    void read(own, {});
    return () => {
      own.close();
      open.current = null;
    };
  }, [source, isReady]);

  async function read(own: OpenReading, wanted: LayoutChoices): Promise<void> {
    try {
      const tell = proxy((share: number) => {
        if (open.current === own) setState({ kind: 'reading', share });
      });
      const summary = await own.reading.read(source, currency, wanted, tell);
      if (open.current !== own) return;
      const { layout } = summary;
      const before = layout && !isAsked.current ? layoutOfShape(shapeOf(layout)) : null;
      isAsked.current = true;
      if (before !== null) {
        setKept(before);
        setChoices(before.choices);
        await read(own, before.choices);
        return;
      }
      setReadable(wanted);
      setState({ kind: 'read', summary });
    } catch (error) {
      if (open.current !== own) return;
      const message =
        error instanceof ZubrellError
          ? error.message
          : t`The file can’t be opened. Choose it again.`;
      setState({ kind: 'failed', message });
    }
  }

  function layoutOfShape(shape: string): KeptLayout | null {
    return layouts?.find((layout) => layout.shape === shape) ?? null;
  }

  return {
    state,
    reading: open.current?.reading ?? null,
    choices,
    kept,
    goBack:
      readable === null
        ? null
        : () => {
            setChoices(readable);
            if (open.current) void read(open.current, readable);
          },
    choose: (changed) => {
      const wanted = { ...choices, ...changed };
      setChoices(wanted);
      setKept(null);
      if (open.current) void read(open.current, wanted);
    },
  };
}
