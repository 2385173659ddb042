/** The day it is in tests. */
export const testToday = '2026-04-08';
