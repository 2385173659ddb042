import type { KeptLayout } from '@zubrell/contract/intake';
import type {
  Delimiter,
  LayoutChoices,
  TableLayout,
} from '@zubrell/core/formats/table/tableLayout';
import { t } from '@zubrell/core/words/t';
import { counted } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';

const DELIMITERS: readonly (readonly [Delimiter, string])[] = [
  [',', t`Comma`],
  [';', t`Semicolon`],
  ['\t', t`Tab`],
  ['|', t`Vertical bar`],
];
const ENCODINGS = [
  'utf-8',
  'windows-1252',
  'windows-1250',
  'windows-1251',
  'iso-8859-15',
  'utf-16le',
] as const;

/** How a table reads: every guess, to be changed with the result visible at once. */
export function LayoutPanel({
  layout,
  encoding,
  kept,
  onChoose,
}: {
  readonly layout: TableLayout;
  readonly encoding: string;
  readonly kept: KeptLayout | null;
  readonly onChoose: (changed: LayoutChoices) => void;
}) {
  const { bankAccountName } = useBooks();
  const { delimiter, headerRow } = layout;
  return (
    <section>
      <h2 className="small-heading">{t`File layout`}</h2>
      {kept && (
        <p className="quiet mb-1">
          {t`Read the same way as ${counted(kept.times, 'file', 'files')} before, for ${bankAccountName(kept.bankAccountId)}.`}
        </p>
      )}
      <div className="reads">
        {delimiter !== null && (
          <>
            <Choice
              label={t`Separator`}
              value={delimiter}
              choices={DELIMITERS}
              onChange={(value) => onChoose({ delimiter: value, roles: undefined })}
            />
            <Choice
              label={t`Character set`}
              value={encoding}
              choices={[...new Set([encoding, ...ENCODINGS])].map((name) => [name, name] as const)}
              onChange={(value) => onChoose({ encoding: value })}
            />
          </>
        )}
        <Choice
          label={t`Headings`}
          value={headerRow === null ? '' : String(headerRow)}
          choices={[
            ['', t`None`],
            ...layout.firstRows.map(
              ({ place, cells }) => [String(place), t`Row ${place}: ${shortly(cells)}`] as const,
            ),
          ]}
          onChange={(value) =>
            onChoose({ headerRow: value === '' ? null : Number(value), roles: undefined })
          }
        />
        <Choice
          label={t`Dates`}
          value={layout.dates}
          choices={[
            ['dayFirst', t`Day first`],
            ['monthFirst', t`Month first`],
            ['yearFirst', t`Year first`],
          ]}
          onChange={(value) => onChoose({ dates: value })}
        />
        <Choice
          label={t`Decimals`}
          value={layout.decimal}
          choices={[
            ['.', t`Point`],
            [',', t`Comma`],
          ]}
          onChange={(value) => onChoose({ decimal: value })}
        />
        <Choice
          label={t`Minus means`}
          value={layout.isTurned ? 'in' : 'out'}
          choices={[
            ['out', t`Paid out`],
            ['in', t`Paid in`],
          ]}
          onChange={(value) => onChoose({ isTurned: value === 'in' })}
        />
      </div>
    </section>
  );
}

/** As much of a row as tells it from others. */
function shortly(cells: readonly string[]): string {
  const text = cells.filter((cell) => cell.trim() !== '').join(' · ');
  return text.length > 40 ? `${text.slice(0, 40)}…` : text;
}

function Choice<Value extends string>({
  label,
  value,
  choices,
  onChange,
}: {
  readonly label: string;
  readonly value: Value;
  readonly choices: readonly (readonly [Value, string])[];
  readonly onChange: (value: Value) => void;
}) {
  const id = `reads-${label.replace(' ', '-').toLowerCase()}`;
  return (
    <>
      <label htmlFor={id}>{label}</label>
      <select
        id={id}
        className="form-select"
        value={value}
        onChange={({ target }) => onChange(target.value as Value)}
      >
        {choices.map(([choice, name]) => (
          <option key={choice} value={choice}>
            {name}
          </option>
        ))}
      </select>
    </>
  );
}
