import { t } from '@zubrell/core/words/t';
/** How sure something is, or what became of it. Shapes differ, not only colours. */
export type MoonKind =
  | 'ready'
  | 'check'
  | 'blank'
  | 'asked'
  | 'posted'
  | 'paired'
  | 'excluded'
  | 'deleted';

const NAMES: Readonly<Record<MoonKind, string>> = {
  ready: t`Ready`,
  check: t`Check`,
  blank: t`Blank`,
  asked: t`Asked`,
  posted: t`Posted`,
  paired: t`Paired`,
  excluded: t`Excluded`,
  deleted: t`Deleted`,
};

/** The moon of a lane, the tick of what is done, the struck circle of what is excluded. */
export function Moon({ kind }: { readonly kind: MoonKind }) {
  return (
    <svg className="moon" viewBox="0 0 14 14" role="img" aria-label={NAMES[kind]}>
      {shapeOf(kind)}
    </svg>
  );
}

function shapeOf(kind: MoonKind) {
  switch (kind) {
    case 'ready':
      return <circle cx="7" cy="7" r="6" fill="var(--mulberry)" />;
    case 'check':
      return (
        <>
          <circle cx="7" cy="7" r="5.4" fill="none" stroke="var(--half-moon)" strokeWidth="1.4" />
          <path d="M7 1.6a5.4 5.4 0 0 0 0 10.8z" fill="var(--half-moon)" />
        </>
      );
    case 'blank':
      return <circle cx="7" cy="7" r="5.4" fill="none" stroke="var(--slate)" strokeWidth="1.4" />;
    case 'asked':
      return <path d="M2 2h10v7H7l-3 3V9H2z" fill="var(--iris)" />;
    case 'posted':
      return <path d="M2 7.5l3.2 3.2L12 3.5" fill="none" stroke="var(--ink-2)" strokeWidth="1.8" />;
    case 'paired':
      return (
        <path
          d="M2.5 5h9M2.5 9h9"
          fill="none"
          stroke="var(--ink-2)"
          strokeWidth="1.8"
          strokeLinecap="round"
        />
      );
    case 'deleted':
    case 'excluded':
      return (
        <>
          <circle cx="7" cy="7" r="5.2" fill="none" stroke="var(--ink-2)" strokeWidth="1.4" />
          <path d="M3.4 10.6l7.2-7.2" stroke="var(--ink-2)" strokeWidth="1.4" />
        </>
      );
  }
}
