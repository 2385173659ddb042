import { readXml } from '../xml/readXml.ts';
import type { OfxBuilder } from './ofxBuilder.ts';

/**
 * Reads the XML of OFX 2.x.
 *
 * @param text the whole file
 * @param builder takes the elements
 */
export function readOfxXml(text: string, builder: OfxBuilder): void {
  let isWhole = false;
  const { isRefused, line } = readXml(
    text,
    {
      open: (name, _attributes, at) => builder.open(name, at),
      value: builder.value,
      close: (name) => {
        builder.close(name);
        if (name === 'OFX') isWhole = true;
      },
    },
    builder.problems,
  );
  builder.end(isWhole || isRefused, line);
}
