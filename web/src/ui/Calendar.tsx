import { firstYear, lastYear } from '@zubrell/core/dates/calendarDate';
import { t } from '@zubrell/core/words/t';
import { DayPicker } from 'react-day-picker';
import 'react-day-picker/style.css';

/** A month to pick a day from; arrows move by day, page keys by month, Esc leaves. */
export function Calendar({
  label,
  value,
  min,
  today,
  beginsOnSunday,
  onPick,
  onLeave,
}: {
  readonly label: string;
  readonly value: string;
  readonly min: string | undefined;
  readonly today: string;
  readonly beginsOnSunday: boolean;
  readonly onPick: (date: string) => void;
  readonly onLeave: () => void;
}) {
  return (
    <div
      role="dialog"
      aria-label={t`Calendar: ${label}`}
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return;
        event.stopPropagation();
        onLeave();
      }}
    >
      <DayPicker
        mode="single"
        required
        autoFocus
        showOutsideDays
        weekStartsOn={beginsOnSunday ? 0 : 1}
        captionLayout="dropdown"
        startMonth={dayOf(min ?? `${firstYear}-01-01`)}
        endMonth={new Date(lastYear, 11)}
        {...(min === undefined ? {} : { disabled: { before: dayOf(min) } })}
        today={dayOf(today)}
        defaultMonth={dayOf(value)}
        selected={dayOf(value)}
        onSelect={(day) => onPick(dateOf(day))}
      />
    </div>
  );
}

/** A date as midnight by this machine's clock, which is what the calendar counts in. */
function dayOf(date: string): Date {
  const [year = 0, month = 1, day = 1] = date.split('-').map(Number);
  return new Date(year, month - 1, day);
}

function dateOf(day: Date): string {
  const two = (number: number) => String(number).padStart(2, '0');
  return `${day.getFullYear()}-${two(day.getMonth() + 1)}-${two(day.getDate())}`;
}
