import { plainWording } from '@zubrell/core/text/plainWording';

/** The bank's wording as it came, with the words marked that look-alikes share. */
export function Wording({ text, stem }: { readonly text: string; readonly stem: string }) {
  const shared = new Set(stem.split(' '));
  let offset = 0;
  const words = text.split(/(\s+)/).map((word) => {
    const key = offset;
    offset += word.length;
    return { key, word, isShared: word.trim() !== '' && shared.has(plainWording(word)) };
  });
  return (
    <div className="wording-box mono">
      {words.map(({ key, word, isShared }) =>
        isShared ? <mark key={key}>{word}</mark> : <span key={key}>{word}</span>,
      )}
    </div>
  );
}
