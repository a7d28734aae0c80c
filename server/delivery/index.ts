export { type Carrier, DeliveryError, isTemporary, type Parcel, saysNobody } from './carrier.ts';
export { type MailSettings, mailCarrier } from './mail.ts';
export { Sender, type SenderParts } from './sender.ts';
export { type TextSettings, textCarrier } from './text.ts';
export { isPrivateAddress } from './guarded.ts';
export { newSecret, signatureOf } from './signing.ts';
export { asItLooked, postedTo } from './parcels.ts';
export { webhookCarrier, type WebhookSettings } from './webhook.ts';
