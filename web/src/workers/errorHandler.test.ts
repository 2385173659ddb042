import { ZubrellError } from '@zubrell/core/errors';
import { expect, it } from 'vitest';
import { errorHandler } from './errorHandler.ts';

const handler = errorHandler(ZubrellError);
/** What was thrown in a worker as it comes out in the page: by a copy of what is sent. */
function crossed(value: unknown): unknown {
  const thrown = { value };
  const [sent] = handler.serialize(thrown);
  try {
    handler.deserialize(structuredClone(sent));
  } catch (error) {
    return error;
  }
  return expect.unreachable('nothing was thrown');
}

it('keeps what an error of the table says, with its values', () => {
  const error = crossed(new ZubrellError('FILE_TOO_LARGE', { limit: 50 }));
  expect(error).toBeInstanceOf(ZubrellError);
  expect(error).toMatchObject({ code: 'FILE_TOO_LARGE', params: { limit: 50 } });
  expect((error as Error).message).toBe(new ZubrellError('FILE_TOO_LARGE', { limit: 50 }).message);
});

it('lets every other error through as it is', () => {
  const error = crossed(new TypeError('not a function'));
  expect(error).toBeInstanceOf(Error);
  expect(error).not.toBeInstanceOf(ZubrellError);
  expect((error as Error).message).toBe('not a function');
  expect(crossed('a text')).toBe('a text');
});
