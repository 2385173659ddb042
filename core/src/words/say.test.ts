import { describe, expect, it } from 'vitest';
import { formatsOf } from '../text/formats.ts';
import { amountSaid, countSaid, dateSaid, linesSaid, monthSaid, saidWords, say } from './say.ts';

describe('what is said', () => {
  it('is a key with numbered places, and values apart', () => {
    expect(say`Reopened ${linesSaid(2)} of ${'Tidemark'}`).toEqual({
      key: 'Reopened {0} of {1}',
      values: [{ count: 2, one: 'line', other: 'lines' }, 'Tidemark'],
    });
    expect(say`Nothing`).toEqual({ key: 'Nothing', values: [] });
  });

  it('is put in words as each reader writes dates and amounts', () => {
    const said = say`${monthSaid('2026-03')}: ${amountSaid(-123_450, 'EUR')} on ${dateSaid('2026-03-31')}`;
    expect(saidWords(said)).toBe('March 2026: −1,234.50 on 31 March 2026');
    expect(saidWords(said, formatsOf('de-DE'))).toContain('−1.234,50');
    expect(saidWords(said, formatsOf('en-US'))).toContain('March 31, 2026');
    expect(saidWords(say`${amountSaid(100, 'EUR', true)}`)).toBe('+1.00');
  });

  it('counts one and several, and holds what is said in it', () => {
    const rule = (count: number) => say`Created ${countSaid(count, 'rule', 'rules')}`;
    expect(saidWords(say`Undid: ${rule(1)}`)).toBe('Undid: Created 1 rule');
    expect(saidWords(say`Undid: ${rule(0)}`)).toBe('Undid: Created 0 rules');
  });

  it('leaves braces in what somebody typed alone', () => {
    expect(saidWords(say`Renamed ${'{1}'} to ${'A {0} B'}`)).toBe('Renamed {1} to A {0} B');
  });

  it('goes through JSON unchanged', () => {
    const said = say`Put ${linesSaid(3)}: ${say`as ${'it'} was`}`;
    expect(JSON.parse(JSON.stringify(said))).toEqual(said);
  });
});
