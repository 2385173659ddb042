import type { AppOptions } from '../app.ts';
import { openLog } from '../log.ts';

/** How tests serve the application: the API alone, on loopback. */
export const plainApp: AppOptions = {
  demoEmail: null,
  isSecure: false,
  hosts: [],
  trustedProxies: [],
  webFolder: null,
  log: openLog(null),
  metricsToken: null,
  own: { isWorking: () => true, isStopping: () => false },
};
