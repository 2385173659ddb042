import { type HeldReason, heldHeadings, heldWords } from '@zubrell/core/intake/held';
import { Moon } from '../../ui/Moon.tsx';

/** Why a line is held for a decision, whatever is proposed for it. */
export function HeldSection({ held }: { readonly held: HeldReason }) {
  return (
    <section>
      <h2 className="small-heading">{heldHeadings[held]}</h2>
      <p className="why-line">
        <Moon kind="check" /> {heldWords[held]}
      </p>
    </section>
  );
}
