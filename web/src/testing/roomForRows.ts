import { afterAll, beforeAll } from 'vitest';

/** Gives elements the room that they have in a browser: without it, lists of rows in view show none. */
export function setRoomForRows(): void {
  const back: (() => void)[] = [];
  const set = (of: object, name: string, property: PropertyDescriptor) => {
    const before = Object.getOwnPropertyDescriptor(of, name);
    Object.defineProperty(of, name, { ...property, configurable: true });
    back.push(() => {
      if (before) Object.defineProperty(of, name, before);
      else Reflect.deleteProperty(of, name);
    });
  };
  beforeAll(() => {
    set(HTMLElement.prototype, 'clientHeight', { get: () => 600 });
    set(HTMLElement.prototype, 'clientWidth', { get: () => 1_000 });
    set(Element.prototype, 'scrollTo', { value: () => undefined });
    set(Element.prototype, 'scrollIntoView', { value: () => undefined });
    set(globalThis, 'ResizeObserver', {
      writable: true,
      value: class {
        observe = () => undefined;
        unobserve = () => undefined;
        disconnect = () => undefined;
      },
    });
  });
  afterAll(() => {
    for (const put of back.splice(0)) put();
  });
}
