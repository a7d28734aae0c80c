export { Controlled, Ends, Refused, SendForm, TextField } from './fields.tsx';
export { type Sending, useSending } from './sending.ts';
