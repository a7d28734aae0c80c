/** What is written up to the cursor, without the space that a completion left before a sign that closes. */
export const closeUp = (before: string): string => before.replace(/ ([,;:)])$/, '$1');
