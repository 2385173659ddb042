import {
  type ComponentType,
  lazy,
  type ReactNode,
  Suspense,
  useEffect,
  useLayoutEffect,
  useState,
} from 'react';

/** When a screen has stood for so long, in milliseconds, what is likely wanted next is fetched. */
const SOON = 2_000;

/** A part that comes late, and what fetches it. */
export type LatePart<Props extends object> = ComponentType<Props> & {
  readonly fetch: () => Promise<unknown>;
};

/**
 * A part that is fetched when it is first shown; until it is there, nothing stands in its place.
 *
 * @param load fetches its module and gives the component. Nothing that is typed into at once should come late.
 */
export function late<Props extends object>(
  load: () => Promise<ComponentType<Props>>,
  meanwhile: ReactNode = null,
): LatePart<Props> {
  const Part = lateScreen(load);
  const shown = (props: Props) => (
    <Suspense fallback={meanwhile}>
      <Part {...props} />
    </Suspense>
  );
  return Object.assign(shown, { fetch: Part.fetch });
}

/** The same, but until it is there, what a `Suspense` around it says: where one is gone to, the screen before. */
export function lateScreen<Props extends object>(
  load: () => Promise<ComponentType<Props>>,
): LatePart<Props> {
  const part: Fetched<Props> = { there: null, Late: lazy(fetch) };
  async function fetch() {
    part.there = await load();
    return { default: part.there };
  }
  const shown = (props: Props) => <Shown part={part} props={props} />;
  return Object.assign(shown, { fetch });
}

interface Fetched<Props extends object> {
  /** The part, once it has come. */
  there: ComponentType<Props> | null;
  readonly Late: ComponentType<Props>;
}

function Shown<Props extends object>({
  part,
  props,
}: {
  readonly part: Fetched<Props>;
  readonly props: Props;
}) {
  // What is there is drawn at once: what is waited for is shown up to 0.3 s later than it came.
  const [Part] = useState<ComponentType<Props>>(() => part.there ?? part.Late);
  return <Part {...props} />;
}

/** A dialog that is fetched when it is first opened; keys that are pressed meanwhile do nothing behind it. */
export function lateDialog<Props extends object>(
  load: () => Promise<ComponentType<Props>>,
): LatePart<Props> {
  return late(load, <HeldKeys />);
}

/** Shows nothing; keys go nowhere but for those of the browser. */
function HeldKeys() {
  useLayoutEffect(() => {
    const hold = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || /^F\d/.test(event.key)) return;
      event.preventDefault();
      event.stopPropagation();
    };
    window.addEventListener('keydown', hold, true);
    return () => window.removeEventListener('keydown', hold, true);
  }, []);
  return null;
}

/** What is being fetched ahead. */
let ahead = 0;

/** Whether what fails to be fetched now may be what nobody has asked for yet. */
export const isFetchedAhead = (): boolean => ahead > 0;

/** Fetches something ahead; what fails is fetched again when it is wanted. */
async function fetchAhead(fetch: () => Promise<unknown>): Promise<void> {
  ahead += 1;
  try {
    await fetch();
  } catch {
    // Nobody waits for it.
  } finally {
    ahead -= 1;
  }
}

/** Fetches what is likely wanted next, when nothing else is to be done. @param fetches stay the same from draw to draw */
export function useAhead(fetches: readonly (() => Promise<unknown>)[]): void {
  useEffect(() => {
    const timer = setTimeout(() => {
      for (const fetch of fetches) void fetchAhead(fetch);
    }, SOON);
    return () => clearTimeout(timer);
  }, [fetches]);
}
