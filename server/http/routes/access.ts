import { Refusal } from '../../../contract/problems.ts';
import { entryAt, mayReadSome } from '../../../core/people/index.ts';
import { type Caller, coordinates, visibleSource } from '../../access/index.ts';
import { changeAccess, chooseLooks, previewAccess, rightsOf } from '../../acts/index.ts';
import type { Handlers } from '../register.ts';

/** Who may read, add and edit, by source and by folder. */
export const accessHandlers: Handlers<'access.read' | 'access.preview' | 'access.save' | 'access.noteLooks'> = {
  async 'access.read'(_context, { params, asking }) {
    const { me, directory } = asking;
    const source = visibleSource(params.source, asking);
    if (!coordinates(me, [source.id], directory)) throw new Refusal('notAllowed', { because: 'sourceOfOthers' });
    const broken = [...directory.folders.values()].filter(
      ({ id, source: of }) => of === source.id && directory.access.some((entry) => entry.folder === id),
    );
    return {
      places: [null, ...broken.map(({ id }) => id)].map((folder) => ({
        folder,
        ...rightsOf(entryAt(source.id, folder, directory), directory),
      })),
      mayChange: isSteward(asking) && directory.sources.get(source.id)?.sheetOf === undefined,
    };
  },

  async 'access.preview'({ pool, clock }, { params, body, asking }) {
    expectSteward(params.source, asking);
    return previewAccess({ pool, clock }, params.source, body, asking);
  },

  async 'access.save'(context, { params, body, asking }) {
    expectSteward(params.source, asking);
    await changeAccess(context, params.source, body, asking);
  },

  async 'access.noteLooks'(context, { params, body, asking }) {
    expectSteward(params.source, asking);
    await chooseLooks(context, params.source, body, asking);
  },
};

const isSteward = ({ me }: Caller): boolean => me.role === 'steward';

/** Stewards give rights, also where they read nothing themselves: else a source that nobody reads could not be mended. */
function expectSteward(source: string, asking: Caller): void {
  const { directory, me } = asking;
  const known = directory.sources.get(source);
  if (!known || (!isSteward(asking) && !mayReadSome(me.id, source, directory))) throw new Refusal('notFound');
  if (!isSteward(asking)) throw new Refusal('notAllowed', { because: 'accessIsForStewards' });
  if (known.sheetOf !== undefined) throw new Refusal('badRequest', { because: 'rowsOfDocument' });
}
