// @vitest-environment jsdom
import { screen, waitFor } from '@testing-library/react';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { ItemActsDone, ItemRow } from '../../../contract/wire/index.ts';
import type { Source } from '../../../core/values/index.ts';
import { DIRECTORY, draw, LOANS } from '../../testing/drawing.tsx';
import { serve } from '../../testing/serving.ts';
import { CommentBox, mentionsIn } from './comment-box.tsx';
import { changedLines } from './compare.tsx';
import { EditChosen } from './edit-chosen.tsx';
import { DocumentActs } from './document-acts.tsx';
import MarkdownShown from './markdown-shown.tsx';
import { lookOf } from './preview.tsx';
import TableShown from './table-shown.tsx';

const PAPERS: Source = {
  id: 'papers',
  kind: 'folders',
  name: 'Papers',
  titleField: 'name',
  fields: [
    { id: 'name', name: 'Name', type: 'text' },
    { id: 'approval', name: 'Approval', type: 'choice', options: ['Draft', 'Submitted', 'Approved', 'Rejected'] },
    { id: 'approver', name: 'Approver', type: 'person' },
    { id: 'checkedOutBy', name: 'Checked out by', type: 'person' },
    { id: 'sharedWith', name: 'Shared with', type: 'people' },
  ],
};
const directory = {
  sources: [{ ...PAPERS, about: '' }],
  coordinates: [],
  folders: [
    { id: 'a', source: 'papers', name: 'Art', parent: null, notesLooks: false },
    { id: 'b', source: 'papers', name: 'Books', parent: 'a', notesLooks: false },
  ],
};
const paper = (id: string, fields: Record<string, string> = {}) => ({
  id,
  title: `${id}.md`,
  fields: { name: `${id}.md`, ...fields },
  folder: 'a',
  isDeleted: false,
});
const names = () => screen.getAllByRole('button').map((one) => one.textContent);
const answer = (...results: ItemActsDone['results']): ItemActsDone => ({ batch: null, results });

describe('what is done with documents', () => {
  it('is offered as far as it goes with them, and says by whom the rest can be done', () => {
    draw(<DocumentActs source={PAPERS} items={[paper('p1', { approval: 'Submitted', approver: 'mei' })]} />, {
      directory,
    });
    expect(names()).toEqual(['Check out', 'Rename', 'Move', 'Share']);
    expect(screen.getByText(/Mei Tanaka, or whoever looks after the source, decides/)).toBeTruthy();
  });

  it('of one that somebody else holds only what does not change it', () => {
    draw(<DocumentActs source={PAPERS} items={[paper('p1', { checkedOutBy: 'wren' })]} />, { directory });
    expect(names()).toEqual(['Share']);
    expect(screen.getByText(/Wren Adeyemi has it checked out/)).toBeTruthy();
  });

  it('goes to several at once, and names each that it was not done with, and why', async () => {
    const why = { title: 'No', detail: 'Mei has it checked out.' };
    const asked = serve({
      'items.acts': () => answer({ id: 'p1', outcome: 'done', why: null }, { id: 'p2', outcome: 'refused', why }),
    });
    const { user } = draw(<DocumentActs source={PAPERS} items={[paper('p1'), paper('p2')]} />, { directory });
    await user.click(screen.getByRole('button', { name: 'Move' }));
    await user.click(await screen.findByRole('option', { name: 'Art / Books' }));
    expect((await screen.findByText('Mei has it checked out.')).textContent).toContain('p2.md: ');
    expect(await screen.findByText('It is moved.')).toBeTruthy();
    expect(asked[0]?.body).toEqual({ ids: ['p1', 'p2'], act: { act: 'move', folder: 'b' } });
  });
});

describe('one edit of several', () => {
  it('says what it would change before it is made, and changes only that', async () => {
    const loan = (id: string, status: string): ItemRow => ({
      ...paper(id),
      source: 'loans',
      fields: { title: id, status },
      folder: null,
      version: 1,
      lastAt: '2026-03-04T10:00:00.000Z',
      lastBy: 'ines',
      last: null,
    });
    const asked = serve({ 'items.acts': () => answer({ id: 'l1', outcome: 'done', why: null }) });
    const chosen = [loan('l1', 'Agreed'), loan('l2', 'On view')];
    const { user } = draw(<EditChosen source={LOANS} chosen={chosen} onDone={() => undefined} />);
    await user.click(screen.getByRole('button', { name: 'Edit them' }));
    await user.selectOptions(await screen.findByLabelText('Which field'), 'status');
    // Nothing is chosen yet: nothing would be emptied by pressing on.
    expect(screen.getByRole('button', { name: 'Nothing to change' })).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Empty it' }));
    expect(screen.getByRole('button', { name: 'Change 2' })).toBeTruthy();
    await user.selectOptions(screen.getByLabelText('New value of Status'), 'On view');
    expect(screen.getByText('1 would change, 1 are so already.')).toBeTruthy();
    expect(screen.getByText('Agreed', { selector: 's' })).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Change 1' }));
    await waitFor(() =>
      expect(asked[0]?.body).toEqual({ ids: ['l1'], act: { act: 'set', set: { status: 'On view' } } }),
    );
  });
});

describe('a comment', () => {
  it('mentions whom it names after an @, and refuses to say nothing', async () => {
    const asked = serve({ 'items.acts': () => answer({ id: 'p1', outcome: 'done', why: null }) });
    const { user } = draw(<CommentBox item="p1" source="papers" />, { directory });
    await user.click(screen.getByRole('button', { name: 'Say it' }));
    expect((await screen.findByRole('alert')).textContent).toBe('Something has to stand here.');
    await user.type(screen.getByRole('textbox'), 'Look, @Wren and @ines calder');
    await user.click(screen.getByRole('button', { name: 'Say it' }));
    await waitFor(() =>
      expect(asked[0]?.body).toMatchObject({
        act: { text: 'Look, @Wren and @ines calder', mentions: ['ines', 'wren'] },
      }),
    );
    await waitFor(() => expect(screen.getByRole('textbox')).toHaveProperty('value', ''));
  });

  it('mentions nobody by a part of a name, nor where two bear it', () => {
    const people = [...DIRECTORY.people, { id: 'wren2', name: 'Wren Other', title: '', isActive: true }];
    expect(mentionsIn('@Wrenna @Me @Mei, mei@x.example', people)).toEqual(['mei']);
    expect(mentionsIn('@Wren', people)).toEqual([]);
    expect(mentionsIn('@Wren Other', people)).toEqual(['wren2']);
  });
});

describe('what a document holds', () => {
  it('is looked at by its kind; what could run something only as its text', () => {
    expect(['text/markdown', 'text/csv', 'text/html', 'image/svg+xml', 'application/xml'].map(lookOf)).toEqual([
      'markdown',
      'table',
      'text',
      'text',
      'text',
    ]);
    expect(['image/png', 'application/pdf', 'application/zip'].map(lookOf)).toEqual(['image', 'pdf', 'none']);
  });

  it('in Markdown is words, lists and links: nothing that loads or runs is left', () => {
    const text = [
      '# Head',
      '- one',
      '[go](javascript:alert(1)) [web](https://marisma.example)',
      '<img src=x onerror=alert(1)><script>alert(1)</script><iframe src="https://x.example"></iframe>',
      '<a href="https://x.example" onclick="alert(1)" style="x">a</a> ![pic](https://x.example/p.png)',
    ].join('\n\n');
    const { container } = draw(<MarkdownShown text={text} />);
    expect(container.innerHTML).not.toMatch(/script|onerror|onclick|iframe|<img|style=/);
    expect([...container.querySelectorAll('a')].map((one) => one.getAttribute('href'))).toEqual([
      null,
      'https://marisma.example',
      'https://x.example',
    ]);
    expect(container.querySelector('h4')?.textContent).toBe('Head');
  });

  it('that is a table is shown as one, whatever parts its cells', () => {
    draw(<TableShown text={'a;b\n"1;2";3\n'} name="t" />);
    expect(screen.getAllByRole('cell').map((one) => one.textContent)).toEqual(['1;2', '3']);
  });

  it('differs line by line: what is gone and what is new, put back together, are the two texts', () => {
    const line = fc.constantFrom('a', 'b', 'c', '');
    fc.assert(
      fc.property(fc.array(line, { maxLength: 8 }), fc.array(line, { maxLength: 8 }), (before, after) => {
        const text = (lines: string[]) => lines.map((one) => `${one}\n`).join('');
        const shown = changedLines(text(before), text(after));
        // So few lines are all shown but for what stayed the same far from any change.
        if (shown.some(({ kind }) => kind === 'skipped')) return;
        const of = (kind: string) =>
          shown.filter((one) => one.kind === 'same' || one.kind === kind).map(({ words }) => words);
        const sound = (lines: string[]) => (lines.length === 0 ? [] : lines);
        expect(of('gone').join('|')).toBe(sound(before).join('|'));
        expect(of('new').join('|')).toBe(sound(after).join('|'));
      }),
      { seed: 11, numRuns: 300 },
    );
  });
});
