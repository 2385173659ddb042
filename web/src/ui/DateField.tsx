import { addDays } from '@zubrell/core/dates/calendarDate';
import { ZubrellError } from '@zubrell/core/errors';
import { t } from '@zubrell/core/words/t';
import { CalendarDays } from 'lucide-react';
import { type KeyboardEvent, type ReactNode, useId, useRef, useState } from 'react';
import { Overlay, Popover } from 'react-bootstrap';
import { beginsOnSunday, formatDate, readDate } from '../app/formats.ts';
import { useToday } from '../app/useToday.ts';
import { Calendar } from './Calendar.tsx';
import './dateField.scss';

interface DateFieldProps {
  readonly label: string;
  /** `YYYY-MM-DD`; empty where there is none. */
  readonly value: string;
  /** Is given whole dates only, and nothing where the field is emptied or what is typed can't be read. */
  readonly onChange: (date: string) => void;
  /** Where the label stands; hidden where words around the field say it. */
  readonly labelled?: 'above' | 'beside' | 'hidden';
  /** The first date that can be chosen. */
  readonly min?: string;
  readonly hint?: string | undefined;
  readonly isFixed?: boolean;
  /** Whether it always has a date: what can't be read leaves the one before. */
  readonly isNeeded?: boolean;
  readonly autoFocus?: boolean;
}

/** A date, typed as the user writes dates or picked from a calendar (Alt and ↓). */
export function DateField({
  label,
  value,
  onChange,
  labelled = 'above',
  min,
  hint,
  isFixed = false,
  isNeeded = false,
  autoFocus = false,
}: DateFieldProps) {
  const id = useId();
  const today = useToday();
  const [typed, setTyped] = useState<string | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const [isOpen, setIsOpen] = useState(false);
  const field = useRef<HTMLDivElement>(null);
  const input = useRef<HTMLInputElement>(null);
  const said = wrong ?? hint;

  function give(date: string): void {
    setTyped(null);
    setWrong(null);
    if (date !== value) onChange(date);
  }

  function refuse(reason: string): void {
    setWrong(reason);
    if (!isNeeded && value !== '') onChange('');
  }

  function take(): void {
    if (typed === null) return;
    if (typed.trim() === '') {
      give(isNeeded ? value : '');
      return;
    }
    try {
      const date = readDate(typed, today);
      if (min !== undefined && date < min) refuse(t`The first possible date is ${shown(min)}.`);
      else give(date);
    } catch (error) {
      if (!(error instanceof ZubrellError)) throw error;
      refuse(t`${error.message} Type a date such as ${shown(today)}.`);
    }
  }

  function press(event: KeyboardEvent): void {
    const { key, altKey } = event;
    if (key === 'Enter') take();
    if (key !== 'ArrowDown' && key !== 'ArrowUp') return;
    event.preventDefault();
    if (altKey) setIsOpen(key === 'ArrowDown');
    else if (value !== '' && typed === null) move(addDays(value, key === 'ArrowUp' ? 1 : -1));
  }

  function move(date: string): void {
    if (min === undefined || date >= min) give(date);
  }

  function close(): void {
    setIsOpen(false);
    input.current?.focus();
  }

  return (
    <div className={`date-field ${labelled}`} ref={field}>
      <FieldLabel htmlFor={id} labelled={labelled}>
        {label}
      </FieldLabel>
      <div className="date-input">
        <input
          ref={input}
          id={id}
          className={`form-control ${wrong ? 'is-invalid' : ''}`}
          autoComplete="off"
          // biome-ignore lint/a11y/noAutofocus: the first field of a dialog
          autoFocus={autoFocus}
          disabled={isFixed}
          aria-invalid={wrong !== null}
          aria-describedby={said ? `${id}-said` : undefined}
          value={typed ?? (value === '' ? '' : shown(value))}
          onChange={({ target }) => setTyped(target.value)}
          onBlur={take}
          onKeyDown={press}
        />
        <button
          type="button"
          tabIndex={-1}
          className="date-open"
          aria-label={t`Calendar: ${label}`}
          aria-expanded={isOpen}
          disabled={isFixed}
          onClick={() => setIsOpen(!isOpen)}
        >
          <CalendarDays size={14} aria-hidden />
        </button>
      </div>
      {said && (
        <div id={`${id}-said`} className={wrong ? 'trouble' : 'quiet'}>
          {said}
        </div>
      )}
      <Overlay
        show={isOpen}
        target={input}
        container={field}
        placement="bottom-start"
        rootClose
        onHide={() => setIsOpen(false)}
        popperConfig={{ strategy: 'fixed' }}
        transition={false}
      >
        <Popover className="date-popover">
          <Calendar
            label={label}
            value={value || today}
            min={min}
            today={today}
            beginsOnSunday={beginsOnSunday()}
            onPick={(date) => {
              give(date);
              close();
            }}
            onLeave={close}
          />
        </Popover>
      </Overlay>
    </div>
  );
}

function FieldLabel({
  htmlFor,
  labelled,
  children,
}: {
  readonly htmlFor: string;
  readonly labelled: 'above' | 'beside' | 'hidden';
  readonly children: ReactNode;
}) {
  const names = { above: 'small-heading', beside: 'quiet', hidden: 'visually-hidden' };
  return (
    <label htmlFor={htmlFor} className={names[labelled]}>
      {children}
    </label>
  );
}

/** With its year always, as it may be changed. */
const shown = (date: string) => formatDate(date, 0);
