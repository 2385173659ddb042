import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { wordingFeatures } from './features.ts';
import { makeWordings, type Wordings } from './wordings.ts';

const TEXTS = ['TIDEMARK FREIGHT', 'TIDEMARK FRT DEPOT', 'COBBLE CAFE', 'BRINDLE FOODS', 'CAFE'];
const ASKED = wordingFeatures('CRD PUR TIDEMARK FRT 20318');

function counted(into: Wordings, text: string, cluster: number, by: 1 | -1 = 1): number {
  const wording = into.know(wordingFeatures(text));
  into.count(wording, cluster, by);
  return wording;
}

/** What a search finds: how alike each text is, and each cluster. */
function found(wordings: Wordings, beside: readonly number[] = []) {
  const alike = wordings.search(ASKED, beside);
  return {
    texts: TEXTS.map((text) => alike.likeness(wordings.know(wordingFeatures(text)))),
    clusters: alike.clusters
      .map((cluster) => [cluster, alike.best(cluster), alike.shared(cluster)])
      .sort(([a = 0], [b = 0]) => a - b),
  };
}

describe('wordings', () => {
  it('are found by what they share, the more alike the rarer that is', () => {
    const wordings = makeWordings();
    for (const [cluster, text] of TEXTS.entries()) counted(wordings, text, cluster);
    const { texts, clusters } = found(wordings);
    expect(texts.slice(2)).toEqual([undefined, undefined, undefined]);
    expect(texts[1]).toBeGreaterThan(texts[0] ?? 0);
    expect(clusters.map(([cluster]) => cluster)).toEqual([0, 1]);
  });

  it('are compared as well when they are named, also if they share nothing', () => {
    const wordings = makeWordings();
    for (const [cluster, text] of TEXTS.entries()) counted(wordings, text, cluster);
    const cafe = wordings.know(wordingFeatures('COBBLE CAFE'));
    expect(found(wordings, [cafe]).texts[2]).toBe(0);
  });

  it('are of one cluster or of several, and of each it is the best that counts', () => {
    const wordings = makeWordings();
    counted(wordings, 'TIDEMARK FREIGHT', 0);
    counted(wordings, 'TIDEMARK FREIGHT', 1);
    counted(wordings, 'TIDEMARK FRT DEPOT', 1);
    const [freight, depot] = found(wordings).texts;
    const best = found(wordings).clusters.map(([cluster, likeness]) => [cluster, likeness]);
    expect(best).toEqual([
      [0, freight],
      [1, depot],
    ]);
  });

  it('tell the same however their words are repeated', () => {
    const once = wordingFeatures('CAFE COBBLE CAFE');
    expect(once).toEqual(wordingFeatures('CAFE COBBLE'));
  });

  it('are as if they had never been where their lines are taken out again', () => {
    const line = fc.tuple(fc.constantFrom(...TEXTS), fc.nat(3));
    const lines = fc.array(line, { maxLength: 12 });
    fc.assert(
      fc.property(lines, lines, (stay, go) => {
        const wordings = makeWordings();
        for (const each of [...stay, ...go]) counted(wordings, ...each);
        found(wordings);
        for (const each of go) counted(wordings, ...each, -1);
        const fresh = makeWordings();
        for (const each of stay) counted(fresh, ...each);
        expect(found(wordings)).toEqual(found(fresh));
        for (const word of ['TIDEMARK', 'CAFE', 'DEPOT']) {
          expect(wordings.clustersOfWord(word)).toBe(fresh.clustersOfWord(word));
          expect(wordings.isKnownWord(word)).toBe(fresh.isKnownWord(word));
        }
      }),
    );
  });

  it('have room for very many', () => {
    const wordings = makeWordings();
    const places = Array.from({ length: 3_000 }, (_, at) => {
      const letters = [...String(at)].map((digit) => 'BCDFGHJKLM'[Number(digit)]).join('');
      return counted(wordings, `PAYEE Q${letters} WORKS`, at);
    });
    expect(new Set(places).size).toBe(3_000);
    const last = wordings.search(wordingFeatures('PAYEE QCMMM WORKS'), []);
    const [best] = [...last.clusters].sort((a, b) => last.best(b) - last.best(a));
    expect(best).toBe(1_999);
    expect(last.best(1_999)).toBeCloseTo(1, 9);
  });
});
