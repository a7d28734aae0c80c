import { type Sending, TextField } from '../../forms/index.ts';
import { t } from '../../words/signing-in.ts';

/** The password by which whoever sits at an open page shows that it is them; first in its form. */
export const OwnPassword = <V extends { old: string }>({ sending }: { sending: Sending<V> }) => (
  <TextField
    // Every such form has this field, whatever else is in it.
    sending={sending as unknown as Sending<{ old: string }>}
    name="old"
    label={t('oldPassword')}
    type="password"
    autoComplete="current-password"
    autoFocus
  />
);
