import { ZubrellError } from '@zubrell/core/errors';
import { useState } from 'react';
import { editedAmount, readAmount } from '../app/formats.ts';
import { useBooks } from '../app/useBooks.ts';

/** However banks write that it is paid in or out. */
const SIGNED = /[-+−()]|[A-Za-z]/;

/** An amount that is typed: what can't be read stays and is marked, with the reason. */
export function AmountField({
  label,
  value,
  onChange,
  placeholder,
  isOut = false,
}: {
  readonly label: string;
  /** In minor units; null is empty. */
  readonly value: number | null;
  readonly onChange: (value: number | null) => void;
  readonly placeholder?: string;
  /** Whether what is typed without a sign is paid out. */
  readonly isOut?: boolean;
}) {
  const { currency } = useBooks();
  const [typed, setTyped] = useState<string | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const shown = typed ?? (value === null ? '' : editedAmount(value, currency));

  function take(): void {
    if (typed === null) return;
    if (typed.trim() === '') onChange(null);
    else {
      try {
        const minor = readAmount(typed, currency);
        onChange(isOut && !SIGNED.test(typed) ? -minor : minor);
      } catch (error) {
        if (!(error instanceof ZubrellError)) throw error;
        setWrong(error.message);
        return;
      }
    }
    setTyped(null);
    setWrong(null);
  }

  return (
    <input
      className={`form-control form-control-sm num ${wrong ? 'is-invalid' : ''}`}
      inputMode="decimal"
      aria-label={label}
      aria-invalid={wrong !== null}
      title={wrong ?? undefined}
      placeholder={placeholder}
      value={shown}
      onFocus={({ target }) => target.select()}
      onChange={({ target }) => setTyped(target.value)}
      onBlur={take}
      onKeyDown={(event) => {
        if (event.key === 'Enter') take();
      }}
    />
  );
}
