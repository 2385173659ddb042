import { join } from 'node:path';
import { type Browser, openBrowser } from '@zubrell/e2e/browser';
import { type Database, openBackground } from '@zubrell/server/db/database';
import { openLog } from '@zubrell/server/log';
import { openSession, sessionCookie } from '@zubrell/server/modules/session/sessions';
import { projectFolder } from '@zubrell/server/projectFolder';
import { makeKey, openSecrets } from '@zubrell/server/secrets';
import { serve } from '@zubrell/server/serve';
import type { Services } from '@zubrell/server/services';

/** A server with the built application, and a browser in which a user is signed in. */
export interface Opened {
  readonly url: string;
  readonly browser: Browser;
  /** The user's session, for requests besides the browser's. */
  readonly headers: { readonly cookie: string };
}

/** Serves the built application to a signed-in browser while something is measured. */
export async function inBrowser<T>(
  services: Pick<Services, 'clock' | 'database'>,
  userId: string,
  measure: (opened: Opened) => Promise<T>,
): Promise<T> {
  const running = await serve(
    {
      ...services,
      background: backgroundOf(services.database),
      connectors: new Map(),
      watchFolder: null,
      secrets: openSecrets([makeKey()]),
    },
    {
      port: 0,
      isSecure: false,
      hosts: [],
      trustedProxies: [],
      demoEmail: null,
      webFolder: join(projectFolder, 'web', 'dist'),
      log: openLog(null),
      metricsToken: null,
    },
  );
  try {
    const browser = await openBrowser(running.url);
    try {
      const session = await openSession(services.database, services, userId);
      await browser.go('/sign-in');
      await browser.driver.manage().addCookie({ name: sessionCookie, value: session });
      const headers = { cookie: `${sessionCookie}=${session}` };
      return await measure({ url: running.url, browser, headers });
    } finally {
      await browser.close();
    }
  } finally {
    await running.stop().catch(() => undefined);
  }
}

/** Connections for the worker, to where those of the requests go. */
function backgroundOf({ $client }: Database): Database {
  return openBackground($client.options.connectionString ?? '');
}
