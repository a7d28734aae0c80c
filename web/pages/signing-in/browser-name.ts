/** What browsers say of themselves, the more particular first: most claim to be others as well. */
const BROWSERS: readonly [RegExp, string][] = [
  [/\bEdgA?\//, 'Edge'],
  [/\bOPR\//, 'Opera'],
  [/\bFirefox\/|\bFxiOS\//, 'Firefox'],
  [/Chrome\/|\bCriOS\//, 'Chrome'],
  [/\bSafari\//, 'Safari'],
];
const SYSTEMS: readonly [RegExp, string][] = [
  [/\biPhone\b/, 'iPhone'],
  [/\biPad\b/, 'iPad'],
  [/\bAndroid\b/, 'Android'],
  [/\bWindows\b/, 'Windows'],
  [/\bMac OS X\b/, 'macOS'],
  [/\bCrOS\b/, 'ChromeOS'],
  [/\bLinux\b/, 'Linux'],
];

/** What to call a browser by how it names itself (RFC 9110, User-Agent); `null` where it says nothing. */
export function browserName(agent: string): string | null {
  const named = (list: typeof BROWSERS) => list.find(([sign]) => sign.test(agent))?.[1];
  const known = [named(BROWSERS), named(SYSTEMS)].filter((one) => one !== undefined);
  return known.length > 0 ? known.join(', ') : agent.trim().slice(0, 60) || null;
}
