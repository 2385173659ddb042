import type { StepEvent } from '@zubrell/contract/events';
import { tagsOf } from '@zubrell/contract/touched';
import type { BooksId } from '@zubrell/core/ids';
import { useEffect } from 'react';
import { api } from '../api/api.ts';
import { ownTouches } from '../api/ownCommands.ts';
import { useAppDispatch } from './store.ts';

/**
 * Reads anew what another person, or another tab, changed. What a command of this tab said beforehand that it touches
 * was read anew with its answer, and is not again. One tab of the browser holds the stream and passes what it hears on
 * to the others.
 */
export function useStepEvents(booksId: BooksId): void {
  const dispatch = useAppDispatch();
  useEffect(() => {
    const name = `zubrell-steps-${booksId}`;
    const channel = new BroadcastChannel(name);
    const ending = new AbortController();
    const renew = (data: string) => {
      const { touched, by }: StepEvent = JSON.parse(data);
      const own = tagsOf(ownTouches(by) ?? []);
      const changed = tagsOf(touched).filter((tag) => !own.includes(tag));
      if (changed.length > 0) dispatch(api.util.invalidateTags(changed));
    };
    channel.onmessage = ({ data }: MessageEvent<string>) => renew(data);
    const lead = () =>
      new Promise<void>((done) => {
        const stream = new EventSource(`/api/books/${booksId}/events`);
        stream.addEventListener('step', ({ data }: MessageEvent<string>) => {
          channel.postMessage(data);
          renew(data);
        });
        ending.signal.addEventListener('abort', () => {
          stream.close();
          done();
        });
      });
    navigator.locks.request(name, { signal: ending.signal }, lead).catch(() => undefined);
    return () => {
      ending.abort();
      channel.close();
    };
  }, [booksId, dispatch]);
}
