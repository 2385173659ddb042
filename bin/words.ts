/**
 * Writes all texts of the application into a catalogue for another language, and keeps what is translated there:
 *
 *     npm run words -- core/src/words/de.json de
 */
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { monthNames } from '../core/src/dates/calendarDate.ts';
import { errors } from '../core/src/errors.ts';
import type { Catalogue } from '../core/src/words/catalogue.ts';
import { countedIn, FOLDERS, filesIn, keysIn } from './texts.ts';

/** A catalogue with the texts of now: those that are translated as they are, others in English, without those gone. */
export function renewed(before: Catalogue): Catalogue {
  const files = filesIn(FOLDERS);
  const keys = [
    ...files.flatMap((file) => keysIn(file).map(({ text }) => text)),
    ...Object.values(errors).map(([, text]) => text),
    ...monthNames,
  ];
  const nouns = files.flatMap((file) => countedIn(file));
  return {
    language: before.language,
    texts: Object.fromEntries(
      [...new Set(keys)].sort().map((key) => [key, before.texts[key] ?? key]),
    ),
    counted: Object.fromEntries(
      nouns
        .sort((a, b) => (a.other < b.other ? -1 : 1))
        .map(({ one, other }) => [other, before.counted[other] ?? { one, other }]),
    ),
  };
}

const [file, language] = process.argv.slice(2);
if (process.argv[1] === import.meta.filename) {
  if (!file || !language) {
    console.error('Say which file and which language: npm run words -- core/src/words/de.json de');
    process.exit(1);
  }
  const before: Catalogue = existsSync(file)
    ? JSON.parse(readFileSync(file, 'utf8'))
    : { language, texts: {}, counted: {} };
  const after = renewed(before);
  writeFileSync(file, `${JSON.stringify(after, null, 2)}\n`);
  const open = Object.entries(after.texts).filter(([key, text]) => key === text);
  console.log(
    `${Object.keys(after.texts).length} texts and ${Object.keys(after.counted).length} counted words in ${file}; ${open.length} texts are as in English.`,
  );
}
