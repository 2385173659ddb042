import type { ReactNode } from 'react';

/** One reason for keeping a line out of the books, with what it asks for once it is chosen. */
export function ReasonChoice({
  name,
  what,
  isOff,
  isChosen,
  onChoose,
  autoFocus = false,
  children,
}: {
  readonly name: string;
  /** What it means or, where it can't be chosen, why. */
  readonly what: string;
  readonly isOff: boolean;
  readonly isChosen: boolean;
  readonly onChoose: () => void;
  readonly autoFocus?: boolean;
  readonly children?: ReactNode;
}) {
  return (
    <>
      <label className={`reason ${isOff ? 'quiet' : ''}`}>
        <input
          className="form-check-input"
          type="radio"
          name="reason"
          disabled={isOff}
          checked={isChosen}
          // biome-ignore lint/a11y/noAutofocus: Enter then confirms what is most likely, and arrows choose otherwise
          autoFocus={autoFocus}
          onChange={onChoose}
        />
        <span>
          <b>{name}</b>
          <br />
          <span className="quiet">{what}</span>
        </span>
      </label>
      {isChosen && children && <div className="reason-more">{children}</div>}
    </>
  );
}
