import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  Builder,
  By,
  error,
  Key,
  until,
  type WebDriver,
  type WebElement,
} from 'selenium-webdriver';
import chrome from 'selenium-webdriver/chrome.js';

const PATIENCE = 10_000;

/** Debian's Chromium, headless, at 1280 × 800, with short ways to do what a user does. */
export interface Browser {
  readonly driver: WebDriver;
  /** Goes to a path of the application. */
  go(path: string): Promise<void>;
  resize(width: number, height: number): Promise<void>;
  /** Waits for an element with this text, or with this accessible name, and gives it. */
  see(text: string): Promise<WebElement>;
  /** Waits until nothing has this text any more. */
  seeNoMore(text: string): Promise<void>;
  find(css: string): Promise<WebElement>;
  press(button: string): Promise<void>;
  /** Types into the field with this label, once it is there, in the place of what is in it. */
  type(label: string, text: string): Promise<void>;
  /** Sends keys to what has the focus. */
  keys(...keys: readonly string[]): Promise<void>;
  /** Presses a key while Shift is held. */
  shift(key: string): Promise<void>;
  /** Presses a key with Ctrl. */
  control(key: string): Promise<void>;
  /** Gives it a device that makes and uses passkeys, and whose user always agrees. */
  addDevice(): Promise<void>;
  /** The picture of the page, as PNG. */
  picture(): Promise<Buffer>;
  close(): Promise<void>;
}

export { By, Key };

/** Whether a press failed for what passes by itself; anything else is thrown. */
function isNotYet(failure: unknown): false {
  const isPassing =
    failure instanceof error.ElementNotInteractableError ||
    failure instanceof error.StaleElementReferenceError;
  if (isPassing) return false;
  throw failure;
}

/** Starts the browser on an application. */
export async function openBrowser(origin: string): Promise<Browser> {
  const profile = mkdtempSync(join(tmpdir(), 'zubrell-browser-'));
  const options = new chrome.Options();
  options.setChromeBinaryPath('/usr/bin/chromium');
  options.addArguments(
    '--headless=new',
    '--window-size=1280,800',
    '--force-device-scale-factor=1',
    '--hide-scrollbars',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    '--disable-default-apps',
    '--no-first-run',
    '--no-default-browser-check',
    '--disable-dev-shm-usage',
    '--disable-gpu',
    '--font-render-hinting=none',
    `--user-data-dir=${profile}`,
    ...(process.getuid?.() === 0 ? ['--no-sandbox'] : []),
  );
  const driver = await new Builder()
    .forBrowser('chrome')
    .setChromeOptions(options)
    .setChromeService(new chrome.ServiceBuilder('/usr/bin/chromedriver'))
    .build();

  const tell = (command: string, params: object) =>
    (driver as chrome.Driver).sendDevToolsCommand(command, params);

  async function resize(width: number, height: number): Promise<void> {
    await tell('Emulation.setDeviceMetricsOverride', {
      width,
      height,
      deviceScaleFactor: 1,
      mobile: false,
    });
  }

  const named = (text: string) => {
    const quoted = JSON.stringify(text);
    const says = `contains(normalize-space(.), ${quoted})`;
    return By.xpath(
      `//body//*[${says} and not(.//*[${says}])] | //*[@aria-label=${quoted}]` +
        ` | //*[@placeholder=${quoted}]`,
    );
  };
  const see = async (text: string) => {
    const found = await driver.wait(until.elementLocated(named(text)), PATIENCE, `no “${text}”`);
    return found;
  };

  await resize(1280, 800);
  return {
    driver,
    resize,
    see,
    go: async (path) => driver.get(origin + path),
    seeNoMore: async (text) => {
      await driver.wait(
        async () => (await driver.findElements(named(text))).length === 0,
        PATIENCE,
        `still “${text}”`,
      );
    },
    find: async (css) => driver.wait(until.elementLocated(By.css(css)), PATIENCE, `no ${css}`),
    press: async (button) => {
      const quoted = JSON.stringify(button);
      const place = By.xpath(
        `//button[contains(normalize-space(.), ${quoted}) or @aria-label=${quoted}]` +
          ` | //a[contains(normalize-space(.), ${quoted})]`,
      );
      const found = await driver.wait(until.elementLocated(place), PATIENCE, `no “${button}”`);
      await driver.wait(until.elementIsEnabled(found), PATIENCE, `“${button}” is off`);
      // A dialog that is just opening, or a row that is drawn anew, can be pressed a moment later.
      await driver.wait(
        () =>
          driver
            .findElement(place)
            .click()
            .then(() => true, isNotYet),
        PATIENCE,
        `“${button}” can’t be pressed`,
      );
    },
    type: async (label, text) => {
      const named = `//label[normalize-space(.)=${JSON.stringify(label)}]`;
      const place = By.xpath(`${named}/following-sibling::input | ${named}/input`);
      const field = await driver.wait(until.elementLocated(place), PATIENCE, `no “${label}”`);
      await field.clear();
      await field.sendKeys(text);
    },
    keys: async (...keys) => {
      await driver
        .actions()
        .sendKeys(...keys)
        .perform();
    },
    shift: async (key) => {
      await driver.actions().keyDown(Key.SHIFT).sendKeys(key).keyUp(Key.SHIFT).perform();
    },
    control: async (key) => {
      await driver.actions().keyDown(Key.CONTROL).sendKeys(key).keyUp(Key.CONTROL).perform();
    },
    addDevice: async () => {
      await tell('WebAuthn.enable', {});
      await tell('WebAuthn.addVirtualAuthenticator', {
        options: {
          protocol: 'ctap2',
          transport: 'internal',
          hasResidentKey: true,
          hasUserVerification: true,
          isUserVerified: true,
          automaticPresenceSimulation: true,
        },
      });
    },
    picture: async () => Buffer.from(await driver.takeScreenshot(), 'base64'),
    close: async () => {
      await driver.quit();
      rmSync(profile, { recursive: true, force: true });
    },
  };
}
