import type { RefObject } from 'react';
import { Overlay } from 'react-bootstrap';
import type { Choice } from './matchingChoices.ts';

/** What can be chosen in a `Combobox`, below its field or above, where there is room. */
export function ChoiceList({
  field,
  items,
  menuProps,
  itemProps,
}: {
  readonly field: RefObject<HTMLInputElement | null>;
  readonly items: readonly Choice[];
  /** What makes it the menu of the field, beside what places it. */
  readonly menuProps: (placed: object) => object;
  readonly itemProps: (choice: Choice, index: number) => object;
}) {
  return (
    <Overlay show target={field} placement="bottom-start" flip>
      {({
        placement: _placement,
        arrowProps: _arrow,
        show: _show,
        popper: _popper,
        hasDoneInitialMeasure: _measured,
        ...overlay
      }) => (
        <ul {...menuProps(overlay)}>
          {items.map((choice, index) => (
            <li key={choice.id} {...itemProps(choice, index)}>
              <span>{choice.label}</span>
              {choice.hint && <span className="quiet">{choice.hint}</span>}
            </li>
          ))}
        </ul>
      )}
    </Overlay>
  );
}
