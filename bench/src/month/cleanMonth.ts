import { busyStudio, inMonth } from './busyStudio.ts';
import { makeTypist } from './typist.ts';

const AIM = 0.26;

/**
 * A clean month of the demo's studio at its busiest, coded as it really is from the first screen to none
 * open, by keys alone: how many presses a line takes. A chord such as Shift Enter is one press, each letter
 * typed is one.
 */
export async function cleanMonth(): Promise<string> {
  return inMonth(busyStudio(), async (begun) => {
    const typist = makeTypist(begun);
    await begun.browser.go(`/books/${begun.booksId}/desk?lane=ready`);
    await begun.browser.find('.desk-row.stack');
    const lines = await typist.open();
    const swept = await typist.sweep();
    await typist.lane('2', 'check');
    await typist.lane('3', 'blank');
    await typist.sweepRest();
    const left = await typist.open();
    const wrong = await typist.wrong();
    const each = typist.presses() / lines;
    const isMet = each <= AIM && left === 0 && wrong === 0;
    return (
      `a clean month of ${lines} lines: ${swept} swept, ${typist.presses()} key presses, ` +
      `${each.toFixed(3)} a line (aim: at most ${AIM}), ${left} still open, ${wrong} coded wrong  ${isMet ? 'met' : 'NOT MET'}\n`
    );
  });
}
