import type { ExternalToast } from 'sonner';

type Tell = (words: string, options?: ExternalToast) => void;

/** What shows them is not there before the first screen is. */
const tell =
  (kind: 'error' | 'warning' | 'message'): Tell =>
  (words, options) =>
    void import('sonner').then(({ toast: shown }) => shown[kind](words, options));

/** Tells what was done, or what went wrong, in a note that goes by itself. */
export const toast: Tell & { readonly error: Tell; readonly warning: Tell } = Object.assign(
  tell('message'),
  { error: tell('error'), warning: tell('warning') },
);
