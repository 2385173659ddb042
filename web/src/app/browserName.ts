/** The systems and engines that browsers name, in the order in which they are looked for. */
const SYSTEMS = [
  [/android/i, 'Android'],
  [/iphone|ipad/i, 'iOS'],
  [/windows/i, 'Windows'],
  [/mac os/i, 'macOS'],
  [/linux/i, 'Linux'],
] as const;
const BROWSERS = [
  [/edg\//i, 'Edge'],
  [/firefox\//i, 'Firefox'],
  [/chrom(e|ium)\//i, 'Chromium'],
  [/safari\//i, 'Safari'],
] as const;

/**
 * A short name for what a browser says of itself.
 *
 * @example browserName('Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0') // 'Firefox on Linux'
 */
export function browserName(said: string): string {
  const browser = BROWSERS.find(([pattern]) => pattern.test(said))?.[1];
  const system = SYSTEMS.find(([pattern]) => pattern.test(said))?.[1];
  if (browser === undefined && system === undefined) return 'Unknown browser';
  return [browser ?? 'A browser', system].filter(Boolean).join(' on ');
}
