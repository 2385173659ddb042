import { type Locale, locales, usualLocale } from '@zubrell/core/people/locales';
import { t } from '@zubrell/core/words/t';
import { sessionApi } from '../../api/session.ts';
import { formatAmount, formatDate } from '../../app/formats.ts';
import { toast } from '../../app/toast.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { SelectField } from '../../ui/SelectField.tsx';

const regions = new Intl.DisplayNames(['en-GB'], { type: 'region' });
const languages = new Intl.DisplayNames(['en-GB'], { type: 'language' });

/** Chooses how dates and amounts are written and read for who is signed in. */
export function FormatsPanel() {
  const { data: session } = sessionApi.useSessionQuery();
  const [choose, { error, isLoading }] = sessionApi.useChooseLocaleMutation();
  const locale = session?.user?.locale ?? usualLocale;

  async function save(wanted: string): Promise<void> {
    const { error: refused } = await choose({ locale: wanted as Locale });
    if (!refused) toast(t`Saved how dates and amounts are written.`);
  }

  return (
    <section className="sheet">
      <h2>{t`Dates and amounts`}</h2>
      <p className="quiet">
        {t`Dates look like ${formatDate('2025-03-12', 0)} and amounts like ${formatAmount(123_450, 'EUR')}. Dates and amounts that you type are read the same way.`}
      </p>
      {error && <ErrorNote error={error} />}
      <SelectField
        label={t`Written as in`}
        value={locale}
        disabled={isLoading}
        onChange={({ target }) => void save(target.value)}
      >
        {localeNames().map(([each, name]) => (
          <option key={each} value={each}>
            {name}
          </option>
        ))}
      </SelectField>
    </section>
  );
}

/** Each locale by its country, with the language where one country has several; by name. */
function localeNames(): readonly (readonly [Locale, string])[] {
  const countryOf = (locale: Locale) => locale.slice(3);
  return locales
    .map((locale) => {
      const country = regions.of(countryOf(locale)) ?? locale;
      const isOne = locales.filter((other) => countryOf(other) === countryOf(locale)).length === 1;
      return [
        locale,
        isOne ? country : `${country} (${languages.of(locale.slice(0, 2))})`,
      ] as const;
    })
    .sort(([, one], [, other]) => one.localeCompare(other));
}
