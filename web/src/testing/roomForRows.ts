import { beforeAll } from 'vitest';

/** Gives elements the room that they have in a browser: without it, lists of rows in view show none. */
export function setRoomForRows(): void {
  beforeAll(() => {
    Object.defineProperty(HTMLElement.prototype, 'clientHeight', { get: () => 600 });
    Object.defineProperty(HTMLElement.prototype, 'clientWidth', { get: () => 1_000 });
    Element.prototype.scrollTo = () => undefined;
    Element.prototype.scrollIntoView = () => undefined;
    globalThis.ResizeObserver ??= class {
      observe = () => undefined;
      unobserve = () => undefined;
      disconnect = () => undefined;
    };
  });
}
