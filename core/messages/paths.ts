/** The path of an item's page, below the site's base. */
export const itemPath = (id: string): string => `/items/${encodeURIComponent(id)}`;
/** The path of a rule's page, below the site's base. */
export const rulePath = (id: string): string => `/rules/${encodeURIComponent(id)}`;
/** The path of a source's page, below the site's base. */
export const sourcePath = (id: string): string => `/sources/${encodeURIComponent(id)}`;
/** Where the ways to hear less of a rule, and of one item by it, are chosen. */
export const lessPath = (rule: string, item: string): string =>
  `/less?rule=${encodeURIComponent(rule)}&item=${encodeURIComponent(item)}`;
/** So many signs of a message's id stand in its short address: 60 bits, which two messages do not share. */
export const SHORT_SIGNS = 12;
/** The short path of a message, which leads to its page. */
export const shortPath = (message: string): string => `/t/${message.slice(0, SHORT_SIGNS)}`;
