/** Where what was expected differs from what came out: objects match if each key given is equal, lists must have the same length. */
export function differences(wanted: unknown, found: unknown, path = ''): string[] {
  const differ = () => [
    `${path || 'all of it'}: expected ${JSON.stringify(wanted)}, and ${JSON.stringify(found) ?? 'nothing'} came out`,
  ];
  if (Array.isArray(wanted)) {
    if (!Array.isArray(found) || found.length !== wanted.length) return differ();
    return wanted.flatMap((one, at) => differences(one, found[at], `${path}${path && '.'}${at}`));
  }
  if (wanted !== null && typeof wanted === 'object') {
    if (found === null || typeof found !== 'object') return differ();
    return Object.entries(wanted).flatMap(([key, value]) =>
      differences(value, (found as Record<string, unknown>)[key], `${path}${path && '.'}${key}`),
    );
  }
  return wanted === found ? [] : differ();
}
