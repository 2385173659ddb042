import type { StepEvent } from '@zubrell/contract/events';
import { vi } from 'vitest';

type Heard = (event: { readonly data: string }) => void;

/**
 * Stands in for what tells a window of steps: the server's events, of which this window hears as the one that leads, and
 * the channel on which it passes them on to others.
 *
 * @returns what lets it hear of a step, and what it passed on
 */
export function stubStepEvents() {
  const passedOn: string[] = [];
  let listener: Heard = () => undefined;
  vi.stubGlobal(
    'EventSource',
    class {
      addEventListener(_name: string, heard: Heard) {
        listener = heard;
      }
      close() {}
    },
  );
  vi.stubGlobal(
    'BroadcastChannel',
    class {
      onmessage: Heard | null = null;
      postMessage(data: string) {
        passedOn.push(data);
      }
      close() {}
    },
  );
  const request = (_name: string, _options: object, lead: () => Promise<void>) => lead();
  Object.defineProperty(navigator, 'locks', { value: { request }, configurable: true });
  return { hear: (event: StepEvent) => listener({ data: JSON.stringify(event) }), passedOn };
}
