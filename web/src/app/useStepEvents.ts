import { useEffect } from 'react';
import { api } from './api.ts';
import { useAppDispatch } from './store.ts';

/**
 * Reads the books anew when another person, or another tab, did something. One tab of the browser
 * holds the stream and passes the step numbers on to the others.
 */
export function useStepEvents(booksId: string): void {
  const dispatch = useAppDispatch();
  useEffect(() => {
    const name = `zubrell-steps-${booksId}`;
    const channel = new BroadcastChannel(name);
    const ending = new AbortController();
    const renew = () => dispatch(api.util.invalidateTags(['Books', 'Batches']));
    channel.onmessage = renew;
    const lead = () =>
      new Promise<void>((done) => {
        const stream = new EventSource(`/api/books/${booksId}/events`);
        stream.addEventListener('step', ({ data }) => {
          channel.postMessage(data);
          renew();
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
