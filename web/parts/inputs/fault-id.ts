/** Where it is said what is wrong with the control of an id. */
export const faultId = (control: string): string => `${control}-fault`;
