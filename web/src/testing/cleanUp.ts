import { cleanup } from '@testing-library/react';
import { toast } from 'sonner';
import { afterAll, afterEach, vi } from 'vitest';

// Files share their modules and the page: the testing library would clean up after the first file only, and what a file
// left in place of something would stand there for the next.
afterEach(() => {
  cleanup();
  toast.dismiss();
});
afterAll(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
  vi.restoreAllMocks();
  localStorage.clear();
  sessionStorage.clear();
});
