import { formatMonth } from '@zubrell/core/dates/calendarDate';
import { t } from '@zubrell/core/words/t';
import { linesApi } from '../../api/lines.ts';
import { formatCount } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { Moon, type MoonKind } from '../../ui/Moon.tsx';
import { tx } from '../../ui/tx.tsx';
import type { DeskLane } from './deskScope.ts';
import { useDeskScope } from './useDeskScope.ts';

const OPEN_LANES = [
  ['ready', t`Ready`, t`coded, no doubts`],
  ['check', t`Check`, t`coded, with a doubt`],
  ['blank', t`Blank`, t`nothing known yet`],
  ['asked', t`Asked`, t`waiting for an answer`],
] as const;

/** Where the lines stand, with counts, and how far the period is. */
export function Lanes() {
  const { booksId } = useBooks();
  const { scope, period, lane, change } = useDeskScope();
  const { data: counts } = linesApi.useLanesQuery({ booksId, ...scope });
  const open = counts ? counts.ready + counts.check + counts.blank + counts.asked : 0;
  const done = counts ? counts.posted + counts.paired + counts.excluded : 0;
  const all = open + done;
  const isMore = counts?.isDecidedMore === true;
  const percent = all === 0 ? 0 : Math.floor((100 * done) / all);
  const choose = (wanted: DeskLane) => change({ lane: wanted });
  return (
    <nav className="lanes" aria-label={t`Lanes`}>
      {OPEN_LANES.map(([id, name, what]) => (
        <LaneButton
          key={id}
          moon={id}
          name={name}
          count={counts && formatCount(counts[id])}
          what={what}
          isChosen={lane === id}
          onChoose={() => choose(id)}
        />
      ))}
      <h2 className="small-heading">{t`Done`}</h2>
      <LaneButton
        moon="posted"
        name={t`Decided`}
        count={isMore ? `${formatCount(done - 1)}+` : formatCount(done)}
        isChosen={lane === 'decided'}
        onChoose={() => choose('decided')}
      />
      <div className="progress-note">
        {counts && counts.openOutside > 0 && (
          <p className="quiet">{t`${formatCount(counts.openOutside)} more open outside this scope`}</p>
        )}
        {isMore ? (
          <span className="quiet">{t`There are more lines than this count shows.`}</span>
        ) : (
          <>
            <b>
              {tx`${period === null ? t`All` : formatMonth(period).split(' ')[0]}: ${formatCount(done)} of ${formatCount(all)}`}
            </b>
            <div className="bar" aria-hidden>
              <i style={{ width: `${percent}%` }} />
            </div>
            <span className="quiet">
              {t`${percent} % done`}
              {counts && all > 0 && t`, ${Math.round((100 * counts.ready) / all)} % ready`}
            </span>
          </>
        )}
      </div>
    </nav>
  );
}

function LaneButton({
  moon,
  name,
  count,
  what,
  isChosen,
  onChoose,
}: {
  readonly moon: MoonKind;
  readonly name: string;
  readonly count: string | undefined;
  readonly what?: string;
  readonly isChosen: boolean;
  readonly onChoose: () => void;
}) {
  return (
    <button type="button" className="lane" aria-current={isChosen} onClick={onChoose}>
      <Moon kind={moon} />
      <span className="name">
        <b>{name}</b>
        <b className="num">{count}</b>
      </span>
      {what && <small>{what}</small>}
    </button>
  );
}
