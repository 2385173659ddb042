import fc from 'fast-check';

/** What properties are tried with, so that a test that passes here passes everywhere; the bench gives others. */
const seed = Number(process.env.PROPERTY_SEED ?? 20_261_127);

fc.configureGlobal({ seed });
