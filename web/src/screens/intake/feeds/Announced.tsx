import type { Feed } from '@zubrell/contract/feeds';
import { t } from '@zubrell/core/words/t';
import { formatCount } from '../../../app/formats.ts';
import { useShowDate } from '../../../app/useToday.ts';
import { Amount } from '../../../ui/Amount.tsx';

/** What a bank has announced and not booked yet: shown, never posted. */
export function Announced({ lines }: { readonly lines: Feed['announced'] }) {
  const showDate = useShowDate();
  return (
    <tr className="announced">
      <td colSpan={6}>
        <details>
          <summary>{t`${formatCount(lines.length)} announced, not booked yet`}</summary>
          <ul>
            {lines.map((line, index) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: announced lines have nothing else of their own
              <li key={index}>
                <span>{showDate(line.date)}</span>
                <span className="mono">{line.description}</span>
                <Amount minor={line.amount} />
              </li>
            ))}
          </ul>
        </details>
      </td>
    </tr>
  );
}
