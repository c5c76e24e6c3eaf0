import type { EnrolmentPage, EnrolmentPerson } from '@woodruff/contract';
import { part, refused, type Part } from '../../testing/part';
import { EnrolmentPageView } from './enrolment-page';
import { enrolmentStore } from './enrolment.store';

const ID = '00000000-0000-4000-8000-00000000000';
const person = (index: number, name: string, more: Partial<EnrolmentPerson> = {}): EnrolmentPerson => ({
  personId: `${ID}${index}`,
  name,
  department: 'Weaving',
  left: null,
  assessed: {
    payDate: '2026-11-27',
    draft: true,
    earnings: 49_125,
    category: 'eligible',
    label: 'Eligible jobholder',
    tests: [{ sentence: 'Earnings of 491.25 are more than the trigger of 192.00', holds: true }],
    workings: {},
    asks: null,
  },
  state: 'out',
  standing: 'Not in a scheme',
  optOutUntil: null,
  duty: null,
  steps: [],
  ...more,
});
const duty = (what: 'enrol' | 'letter', by: string): NonNullable<EnrolmentPerson['duty']> => ({
  what,
  from: '2026-11-16',
  by,
  letter: what === 'letter' ? 'enrolled' : null,
  sentence: what === 'letter' ? 'You are enrolled: to be given.' : 'Eligible jobholder: to be enrolled.',
});
const PAGE: EnrolmentPage = {
  law: {
    title: 'Workplace pensions',
    noun: 'a workplace pension',
    postponements: [{ code: 'start', label: 'from the first day of work', atMost: '2027-02-23' }],
    exemptions: [{ code: 'director', label: 'Director, not enrolled' }],
    letters: [{ code: 'enrolled', label: 'You are enrolled' }],
    fields: [{ key: 'basis', label: 'Contributions are a per cent of', choices: [{ value: 'qualifying', label: 'qualifying earnings' }] }],
  },
  dutiesFrom: '2016-07-01',
  schemes: [
    {
      id: `${ID}9`,
      version: 1,
      name: 'Cynilion',
      provider: 'Penfro',
      reference: 'PMS-1',
      group: '',
      choices: { basis: 'qualifying' },
      tiers: [{ code: 'standard', label: 'Standard', employee: '5', employer: '3' }],
      employerAtMost: '',
      members: 1,
      employeeItem: 'scheme-1',
      employerItem: 'scheme-1-employer',
    },
  ],
  people: [
    person(1, 'Lewis, Sioned', { duty: duty('enrol', '2026-12-30') }),
    person(2, 'Trehar, Dafydd', { state: 'in', standing: 'In Cynilion since 16 Nov 2026', duty: duty('letter', '2026-11-20') }),
    person(3, 'Pugh, Huw', {
      state: 'exempt',
      standing: 'Exempt',
      steps: [{ id: `${ID}7`, on: '2026-11-01', sentence: 'Exempt: Director', by: 'A. Clerk', undone: null }],
    }),
  ],
  round: { anniversary: '2028-07-01', from: '2028-04-01', to: '2028-09-30', declareBy: '2028-11-30', chosen: null },
  declaration: { by: '2028-11-30', rows: [{ label: 'Workers in all', people: 3 }] },
};

describe('The page of savings schemes', () => {
  let shown: Part<EnrolmentPageView>;
  const open = async (more: Partial<EnrolmentPage> = {}, role: 'clerk' | 'viewer' = 'clerk') => {
    shown = await part(
      EnrolmentPageView,
      {},
      { role, stores: [enrolmentStore as never], arrives: [enrolmentStore.loaded({ data: { ...PAGE, ...more } })] },
    );
  };

  it('says what is to be done by when, the earliest first, and which letters wait', async () => {
    await open();
    const todo = [...shown.element.querySelectorAll('.first tr')]
      .slice(1)
      .map((row) => (row as HTMLElement).innerText.replace(/\s+/g, ' ').trim());
    expect(todo[0]).toContain('Trehar, Dafydd Eligible jobholder 491.25 Letter: You are enrolled');
    expect(todo[1]).toContain('Lewis, Sioned Eligible jobholder 491.25 Enrol, postpone or exempt');
    expect(shown.text).toContain('1 letter, PDF: You are enrolled');
  });

  it('shows what enrolling changes before it is done, for all who are chosen', async () => {
    await open();
    shown.element.querySelector<HTMLInputElement>('[aria-label="Choose Lewis, Sioned"]')!.click();
    await shown.settle();
    await shown.press('Enrol …');
    await shown.press('Show what it changes');
    const body = {
      people: [`${ID}1`],
      what: { step: 'enrolled', on: '2026-11-16', scheme: `${ID}9`, tier: 'standard', because: 'enrolled' },
    };
    const effect = {
      people: [{ name: 'Sioned Lewis', before: 40_000, after: 38_100, cost: 1140, stop: null, look: [] }],
      unchanged: 2,
      runs: [],
    };
    expect(await shown.answer('POST', '/enrolment/steps?rehearse=true', effect)).toEqual(body);
    expect(shown.text).toContain('381.00');
    await shown.press('Enrol: 1 person');
    expect(await shown.answer('POST', '/enrolment/steps', { changed: 1 })).toEqual(body);
    expect(shown.text).not.toContain('Show what it changes');
  });

  it('keeps what was entered when it is refused', async () => {
    await open();
    await shown.press('Choose all').catch(() => shown.element.querySelector<HTMLInputElement>('[aria-label="Choose all"]')!.click());
    await shown.settle();
    await shown.press('Postpone …');
    await shown.fill('Last day', '2027-05-01');
    await shown.press('Show what it changes');
    await shown.answer(
      'POST',
      '/enrolment/steps?rehearse=true',
      refused('Lewis, Sioned: it can be put off until 16 Feb 2027 at most.'),
      400,
    );
    expect(shown.text).toContain('until 16 Feb 2027 at most');
    expect(shown.field('Last day').value).toBe('2027-05-01');
  });

  it('opens a person with tests and steps, and takes the last step back', async () => {
    await open();
    await shown.press('Pugh, Huw');
    expect(shown.text).toContain('● Earnings of 491.25 are more than the trigger of 192.00');
    await shown.press('Take back …');
    await shown.fill('Why it is taken back', 'another person');
    await shown.press('Take the last step back');
    expect(await shown.answer('POST', `/enrolment/steps/${ID}7/undo`, {})).toEqual({ reason: 'another person' });
  });

  it('finds people by name and status', async () => {
    await open();
    await shown.fill('Status', 'exempt');
    expect(shown.element.querySelectorAll('.section')[1]?.textContent).not.toContain('Lewis, Sioned');
    expect(shown.element.querySelectorAll('.section')[1]?.textContent).toContain('Pugh, Huw');
  });

  it('adds a scheme with its groups', async () => {
    await open({ schemes: [] });
    expect(shown.text).toContain('No scheme yet.');
    await shown.press('Add a scheme');
    await shown.fill('Name of the scheme', 'Harbour');
    await shown.fill('Provider', 'Harbour Mutual');
    await shown.press('Another group');
    await shown.fill('Name of group 2', 'Managers');
    await shown.fill('Per cent of group 2', '6');
    await shown.fill('Per cent of the employer for group 2', '6');
    await shown.press('Add the scheme and its pay items');
    expect(await shown.answer('POST', '/enrolment/schemes', { id: `${ID}8` })).toEqual({
      name: 'Harbour',
      provider: 'Harbour Mutual',
      reference: '',
      group: '',
      employerAtMost: '',
      choices: { basis: 'qualifying' },
      tiers: [
        { code: 'standard', label: 'Standard', employee: '5', employer: '3' },
        { code: 'group-2', label: 'Managers', employee: '6', employer: '6' },
      ],
    });
  });

  it('chooses the day of enrolling again', async () => {
    await open();
    await shown.fill('Day of enrolling again', '2028-06-01');
    await shown.press('Choose the day');
    expect(await shown.answer('POST', '/enrolment/rounds', {})).toEqual({ on: '2028-06-01' });
  });

  it('leaves a reader without anything to press, and says where there is no such law or no day', async () => {
    await open({}, 'viewer');
    expect(shown.buttons().filter((name) => /Enrol|Postpone|Add a scheme|Choose the day/.test(name))).toEqual([]);
    await open({ dutiesFrom: null });
    expect(shown.text).toContain('No day is on file since which the duties hold');
    await open({ law: null, schemes: [], people: [], round: null, declaration: null });
    expect(shown.text).toContain('does not want people to be enrolled');
  });
});
