import { describe, expect, it } from 'vitest';
import { cleanName } from './cleanName.ts';

describe('a clean name', () => {
  it('has capitals where words begin, and leaves abbreviations as they are', () => {
    expect(cleanName('ROOKHOPE TIMBER YARD')).toBe('Rookhope Timber Yard');
    expect(cleanName('TIDEMARK FRT')).toBe('Tidemark FRT');
    expect(cleanName('CAFÉ LÖWE')).toBe('Café Löwe');
    expect(cleanName('')).toBe('');
  });
});
