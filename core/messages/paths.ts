export const itemPath = (id: string): string => `/items/${encodeURIComponent(id)}`;
export const rulePath = (id: string): string => `/rules/${encodeURIComponent(id)}`;
export const sourcePath = (id: string): string => `/sources/${encodeURIComponent(id)}`;
