import type { TryPage } from '../../../../contract/wire/index.ts';
import { Also } from './also.tsx';
import { Answered } from '../editors/answered.tsx';
import { CausedBy } from '../editors/caused-by.tsx';
import { HowSoon } from '../editors/how-soon.tsx';
import { KeptFocus } from '../editors/kept-focus.tsx';
import { LookAt } from '../editors/look-at.tsx';
import { OnlyWhile } from '../editors/only-while.tsx';
import type { PartProps } from '../editors/part.tsx';
import { WhatHappens } from '../editors/what-happens.tsx';
import { WhatItSays } from '../editors/what-it-says.tsx';
import { WhoHears } from '../editors/who-hears.tsx';

/** The rule as sentences whose parts one presses and changes. */
export function Sentences({
  tried,
  onPerson,
  ...parts
}: PartProps & { tried: TryPage | undefined; onPerson: (person: string) => void }) {
  return (
    <KeptFocus>
      <LookAt {...parts} />
      <WhatHappens {...parts} />
      <OnlyWhile {...parts} />
      <CausedBy {...parts} />
      <WhoHears {...parts} tried={tried} />
      <HowSoon {...parts} />
      <Answered {...parts} />
      <WhatItSays {...parts} tried={tried} onPerson={onPerson} />
      <Also {...parts} />
    </KeptFocus>
  );
}
