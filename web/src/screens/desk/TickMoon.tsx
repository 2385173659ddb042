import { t } from '@zubrell/core/words/t';
import { Moon, type MoonKind } from '../../ui/Moon.tsx';

/** A row's moon, which ticks the row. */
export function TickMoon({
  kind,
  name,
  state,
  onTick,
}: {
  readonly kind: MoonKind;
  /** What is ticked, for screen readers. */
  readonly name: string;
  readonly state: 'on' | 'some' | 'off';
  readonly onTick: () => void;
}) {
  return (
    <button
      type="button"
      tabIndex={-1}
      role="checkbox"
      aria-checked={state === 'some' ? 'mixed' : state === 'on'}
      aria-label={t`Tick ${name}`}
      className={`tick ${state}`}
      onClick={onTick}
    >
      {state === 'off' ? <Moon kind={kind} /> : <b aria-hidden>{state === 'on' ? '✓' : '–'}</b>}
    </button>
  );
}
