import type { ErrorCode, ErrorParams, ZubrellError } from '@zubrell/core/errors';
import { type TransferHandler, transferHandlers } from 'comlink';

type Thrown = { readonly value: unknown };
type Sent =
  | { readonly known: { code: ErrorCode; params: ErrorParams } }
  | { readonly other: unknown };

/** Lets errors of the table cross between page and worker with their code and values. */
export function errorHandler(
  Known: new (code: ErrorCode, params: ErrorParams) => ZubrellError,
): TransferHandler<Thrown, Sent> {
  const plain = transferHandlers.get('throw') as TransferHandler<Thrown, unknown>;
  return {
    canHandle: (value): value is Thrown => plain.canHandle(value),
    serialize(thrown) {
      const { value } = thrown;
      if (!(value instanceof Known)) {
        const [other, transfers] = plain.serialize(thrown);
        return [{ other }, transfers];
      }
      return [{ known: { code: value.code, params: value.params } }, []];
    },
    deserialize(sent) {
      if ('other' in sent) return plain.deserialize(sent.other);
      throw new Known(sent.known.code, sent.known.params);
    },
  };
}
