/**
 * Whose way of writing dates and amounts a user can choose, as BCP 47 language tags. Words stay English; the order of
 * day and month, the decimal mark and what groups thousands are taken from it.
 */
export const locales = [
  'en-GB',
  'en-IE',
  'en-AU',
  'en-NZ',
  'en-CA',
  'en-US',
  'en-ZA',
  'cs-CZ',
  'da-DK',
  'de-AT',
  'de-CH',
  'de-DE',
  'es-ES',
  'fi-FI',
  'fr-BE',
  'fr-FR',
  'it-IT',
  'nl-BE',
  'nl-NL',
  'nb-NO',
  'pl-PL',
  'pt-PT',
  'sv-SE',
] as const;
export type Locale = (typeof locales)[number];

/** What somebody has who has not chosen. */
export const usualLocale: Locale = 'en-GB';
