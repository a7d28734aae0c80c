export { Controlled, Ends, Refused, SendForm, TextField } from './fields.tsx';
export { SelectField } from './select-field.tsx';
export { type Sending, useSending } from './sending.ts';
export { typedWhole } from './typed-whole.ts';
