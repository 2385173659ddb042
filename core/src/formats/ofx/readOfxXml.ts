import type { TextReader } from '../textReader.ts';
import { createXmlReader } from '../xml/readXml.ts';
import type { OfxBuilder } from './ofxBuilder.ts';

/**
 * Reads the XML of OFX 2.x.
 *
 * @param builder takes the elements
 */
export function createOfxXmlReader(builder: OfxBuilder): TextReader {
  let isWhole = false;
  const reader = createXmlReader(
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
  return {
    write: reader.write,
    end() {
      const { isRefused, line } = reader.end();
      builder.end(isWhole || isRefused, line);
    },
  };
}
