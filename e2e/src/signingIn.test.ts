import { TOTP } from 'otpauth';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Browser, By, openBrowser } from './browser.ts';
import { startTestServer, type TestServer } from './testServer.ts';

const EMAIL = 'mo@larkmoor.example';
const PASSWORD = 'clay and glaze';

let server: TestServer;
let browser: Browser;

beforeAll(async () => {
  server = await startTestServer();
  // Passkeys know hosts by their names.
  browser = await openBrowser(server.url.replace('127.0.0.1', 'localhost'));
  await browser.addDevice();
});
afterAll(async () => {
  await browser?.close();
  await server?.stop();
});

async function signOut(): Promise<void> {
  await (await browser.find('.avatar')).click();
  await browser.press('Sign out');
  await browser.see('E-mail address');
}

async function signInByPassword(): Promise<void> {
  await browser.type('E-mail address', EMAIL);
  await browser.type('Password', PASSWORD);
  await browser.press('Sign in');
}

let secret = '';
// A code holds for the period before and after its own: the period may end while it is typed.
const codeOf = (later: number) =>
  new TOTP({ secret, period: 30 }).generate({ timestamp: Date.now() + later * 30_000 });

describe('signing in', () => {
  it('begins with the set-up code', async () => {
    await browser.go('/');
    await browser.type('Set-up code', server.setUpCode);
    await browser.type('Your name', 'Mo Oakes');
    await browser.type('E-mail address', EMAIL);
    await browser.type('Password', PASSWORD);
    await browser.press('Begin');
    await browser.find('.avatar');
  });

  it('asks for a code once a second factor is on', async () => {
    await browser.go('/account');
    await browser.press('Set up a second factor');
    secret = await (await browser.find('.secret')).getText();
    await browser.type('Code from the app', codeOf(0));
    await browser.press('Turn on second factor');
    await browser.press('I have saved the codes');
    await browser.see('The second factor is on. 10 recovery codes are left.');
    await signOut();
    await signInByPassword();
    await browser.see('Type the code that your device shows, or a recovery code.');
    await browser.type('Code', codeOf(1));
    await browser.press('Sign in');
    await browser.find('.avatar');
  });

  it('needs nothing but the device once there is a passkey', async () => {
    await browser.go('/account');
    await browser.type('Name of this device', 'Studio laptop');
    await browser.press('Create passkey');
    await browser.see('Studio laptop');
    await signOut();
    await browser.press('Sign in with a passkey');
    await browser.find('.avatar');
    await browser.go('/account');
    await browser.press('Remove Studio laptop');
    await browser.seeNoMore('Studio laptop');
    await signOut();
    // The device signs still, and the server knows the key no more.
    await browser.press('Sign in with a passkey');
    await browser.see('The passkey was not accepted.');
    expect(await browser.driver.findElements(By.css('.avatar'))).toHaveLength(0);
  });
});
