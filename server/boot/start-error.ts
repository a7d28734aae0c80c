/** Something about this machine keeps Ojo from starting; the message says what, where and what would be right. */
export class StartError extends Error {}
