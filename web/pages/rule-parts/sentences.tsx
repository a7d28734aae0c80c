import type { TryPage } from '../../../contract/api.ts';
import { Also } from './also.tsx';
import { Answered } from './answered.tsx';
import { CausedBy } from './caused-by.tsx';
import { HowSoon } from './how-soon.tsx';
import { LookAt } from './look-at.tsx';
import { OnlyWhile } from './only-while.tsx';
import type { PartProps } from './part.tsx';
import { WhatHappens } from './what-happens.tsx';
import { WhatItSays } from './what-it-says.tsx';
import { WhoHears } from './who-hears.tsx';

/** The rule as sentences whose parts one presses and changes. */
export function Sentences({ tried, ...parts }: PartProps & { tried: TryPage | undefined }) {
  return (
    <div>
      <LookAt {...parts} />
      <WhatHappens {...parts} />
      <OnlyWhile {...parts} />
      <CausedBy {...parts} />
      <WhoHears {...parts} tried={tried} />
      <HowSoon {...parts} />
      <Answered {...parts} />
      <WhatItSays {...parts} preview={tried?.preview} />
      <Also {...parts} />
    </div>
  );
}
