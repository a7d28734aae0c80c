import type { FaultAt } from '../../contract/problems.ts';

/** How hard to guess a password has to be, of 0 to 4: more than ten thousand million tries. */
const LEAST = 3;
/** A longer one is judged by its beginning: judging takes longer the longer it is. */
const JUDGED = 72;

/** Words of which a password shall not be made, because others know them: of the person, and of the house. */
export interface Known {
  name: string;
  title: string;
  email: string | null;
  id: string;
}

type Judge = (password: string, known: readonly string[]) => number;
let judging: Promise<Judge> | null = null;

/** The dictionaries are large, and wanted rarely. */
async function judge(): Promise<Judge> {
  const [{ ZxcvbnFactory }, common, english, spanish] = await Promise.all([
    import('@zxcvbn-ts/core'),
    import('@zxcvbn-ts/language-common'),
    import('@zxcvbn-ts/language-en'),
    import('@zxcvbn-ts/language-es-es'),
  ]);
  const factory = new ZxcvbnFactory({
    dictionary: { ...common.dictionary, ...english.dictionary, ...spanish.dictionary },
    graphs: common.adjacencyGraphs,
  });
  return (password, known) => factory.check(password, [...known]).score;
}

/** What is wrong with a password that somebody chooses; nothing where it is hard enough to guess. */
export async function weakness(
  password: string,
  { name, title, email, id }: Known,
  path = 'password',
): Promise<FaultAt[]> {
  judging ??= judge();
  const words = [name, title, email ?? '', id, 'ojo', 'museum', 'marisma'].flatMap((text) => [
    text,
    ...text.split(/[^\p{L}\p{N}]+/u),
  ]);
  const score = (await judging)(
    password.slice(0, JUDGED),
    words.filter((word) => word.length > 2),
  );
  return score >= LEAST ? [] : [{ code: 'easilyGuessed', path, params: {} }];
}
