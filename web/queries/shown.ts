/** Of mutations whose failure is shown where they are made; that of any other is said as a notice. */
export const SHOWN = { isShown: true } as const;
