/** The lines of a text one after the other, whichever of the three line ends it has: none of them keeps the others in memory. */
export function* textLines(text: string): Generator<string> {
  let at = 0;
  while (at <= text.length) {
    const newline = text.indexOf('\n', at);
    const end = newline < 0 ? text.length : newline;
    const line = text.slice(at, end > at && text.charCodeAt(end - 1) === RETURN ? end - 1 : end);
    if (line.includes('\r')) yield* line.split('\r');
    else yield line;
    at = end + 1;
  }
}

const RETURN = 13;
