import { useSearchParams } from 'react-router';
import { useBooks } from '../../app/useBooks.ts';
import { useToday } from '../../app/useToday.ts';
import { type Comparison, comparisons, type Period, usualPeriod } from './reportPeriod.ts';

/** The period and comparison that the address names, and ways to change them. */
export function useReportPeriod() {
  const { setup } = useBooks();
  const today = useToday();
  const [params, setParams] = useSearchParams();
  const newest = setup.bankAccounts
    .flatMap(({ lastDate }) => lastDate ?? [])
    .sort()
    .at(-1);
  const usual = usualPeriod(newest ?? today);
  const period: Period = {
    from: params.get('from') ?? usual.from,
    to: params.get('to') ?? usual.to,
  };
  const named = params.get('compared') ?? 'lastYear';
  const comparison: Comparison = named in comparisons ? (named as Comparison) : 'lastYear';
  const set = (changes: Readonly<Record<string, string>>) =>
    setParams(
      (before) => {
        for (const [key, value] of Object.entries(changes)) before.set(key, value);
        return before;
      },
      { replace: true },
    );
  return { period, comparison, set };
}
