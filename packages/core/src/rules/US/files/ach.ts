import type { FixedField, FixedFault, FixedRecord, FixedValues } from '../../../files/fixed-width';
import { readRecord, writeRecord } from '../../../files/fixed-width';
import type { BankPayment, PaymentFile, PaymentFormat } from '../../../payments/payment-file';

/**
 * Files of the automated clearing house: 94 columns, blocked by ten (Nacha Operating Rules, Appendix Three, file
 * specifications). Pay goes as PPD, to others as CCD, support with its CCD+ addenda in the DED convention.
 */

const text = (key: string, length: number): FixedField => ({ key, length, kind: 'text' });
const figures = (key: string, length: number): FixedField => ({ key, length, kind: 'figures' });
const always = (key: string, value: string, length = value.length): FixedField => ({ key, length, kind: 'text', always: value });

export const ACH_RECORDS = {
  file: {
    name: 'File header',
    fields: [
      always('type', '1'),
      always('priority', '01'),
      text('destination', 10),
      text('origin', 10),
      figures('madeOn', 6),
      figures('madeAt', 4),
      text('modifier', 1),
      always('recordSize', '094'),
      always('blocking', '10'),
      always('format', '1'),
      text('destinationName', 23),
      text('originName', 23),
      text('reference', 8),
    ],
  },
  batch: {
    name: 'Batch header',
    fields: [
      always('type', '5'),
      figures('serviceClass', 3),
      text('company', 16),
      text('discretionary', 20),
      text('companyNumber', 10),
      text('entryClass', 3),
      text('description', 10),
      text('descriptiveDate', 6),
      figures('effective', 6),
      text('settlement', 3),
      always('originator', '1'),
      figures('origin', 8),
      figures('number', 7),
    ],
  },
  entry: {
    name: 'Entry',
    fields: [
      always('type', '6'),
      figures('transaction', 2),
      figures('bank', 8),
      figures('check', 1),
      text('account', 17),
      figures('amount', 10),
      text('reference', 15),
      text('name', 22),
      text('discretionary', 2),
      figures('addenda', 1),
      figures('trace', 15),
    ],
  },
  addenda: {
    name: 'Addenda',
    fields: [always('type', '7'), always('addendaType', '05'), text('information', 80), figures('sequence', 4), figures('entry', 7)],
  },
  batchControl: {
    name: 'Batch control',
    fields: [
      always('type', '8'),
      figures('serviceClass', 3),
      figures('entries', 6),
      figures('hash', 10),
      figures('debits', 12),
      figures('credits', 12),
      text('companyNumber', 10),
      text('authentication', 19),
      text('reserved', 6),
      figures('origin', 8),
      figures('number', 7),
    ],
  },
  fileControl: {
    name: 'File control',
    fields: [
      always('type', '9'),
      figures('batches', 6),
      figures('blocks', 6),
      figures('entries', 8),
      figures('hash', 10),
      figures('debits', 12),
      figures('credits', 12),
      text('reserved', 39),
    ],
  },
} satisfies Record<string, FixedRecord>;

const FILLER = '9'.repeat(94);

/** Credit to a checking or savings account, and the debit of the payer's; prenotes have a code of their own. */
const CREDIT = { checking: '22', savings: '32' } as const;
const PRENOTE = { checking: '23', savings: '33' } as const;
const DEBIT = '27';

const day = (date: string): string => date.slice(2).replaceAll('-', '');

/** Figures of the company number: the employer number with a 1 before it says that it is one (Nacha, company identification). */
const companyNumber = (number: string): string => `1${number.replace(/\D/g, '')}`.slice(0, 10);

/**
 * Deposit of withheld support in the DED convention (Nacha, child support payments): case, pay date, amount, number and
 * name, end of employment. Medical support is not told apart here; the agency's FIPS code is part of its case where asked.
 */
export function supportAddenda({ amount, support }: BankPayment): string {
  if (!support) return '';
  const name = support.name
    .toUpperCase()
    .replace(/[*\\~]/g, '')
    .slice(0, 10);
  const fields = ['CS', support.caseNumber, day(support.payDate), String(amount), support.number, 'N', name];
  return `DED*${fields.join('*')}${support.ended ? '**Y' : ''}\\`;
}

interface Group {
  entryClass: 'PPD' | 'CCD';
  description: string;
  payments: readonly BankPayment[];
}

function groupsOf(payments: readonly BankPayment[]): Group[] {
  const of = (purposes: readonly string[]) => payments.filter(({ purpose }) => purposes.includes(purpose));
  return (
    [
      { entryClass: 'PPD', description: 'PAYROLL', payments: of(['pay']) },
      { entryClass: 'PPD', description: 'TRIAL', payments: of(['trial']) },
      { entryClass: 'CCD', description: 'PAYMENTS', payments: of(['payee']) },
      { entryClass: 'CCD', description: 'SUPPORT', payments: of(['support']) },
    ] as const
  ).filter((group) => group.payments.length > 0);
}

/** The last ten figures of the sum of the receiving banks' first eight. */
const hashed = (banks: readonly string[]): string => String(banks.reduce((sum, bank) => sum + Number(bank.slice(0, 8)), 0)).slice(-10);

export function writeAch(file: PaymentFile): string {
  const { payer, payments } = file;
  const origin = payer.bank.slice(0, 8);
  const company = companyNumber(payer.number);
  const lines = [
    writeRecord(ACH_RECORDS.file, {
      destination: ` ${payer.bank}`,
      origin: company,
      madeOn: day(file.made.on),
      madeAt: file.made.at.replace(':', ''),
      // A day's files are told apart by a letter or figure; the number goes on over days.
      modifier: 'ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789'[(file.number - 1) % 36] as string,
      destinationName: payer.bankName.toUpperCase(),
      originName: payer.name.toUpperCase(),
      reference: String(file.number),
    }),
  ];
  let trace = 0;
  let all = { entries: 0, banks: [] as string[], debits: 0, credits: 0 };
  const groups = groupsOf(payments);
  groups.forEach((group, index) => {
    const serviceClass = file.balanced && group.payments.some(({ amount }) => amount > 0) ? '200' : '220';
    const shared = { serviceClass, companyNumber: company, origin, number: String(index + 1) };
    lines.push(
      writeRecord(ACH_RECORDS.batch, {
        ...shared,
        company: payer.name.toUpperCase(),
        entryClass: group.entryClass,
        description: group.description,
        descriptiveDate: day(file.effective),
        effective: day(file.effective),
      }),
    );
    const banks: string[] = [];
    let [entries, debits, credits] = [0, 0, 0];
    const entry = (values: FixedValues, bank: string, information = '') => {
      trace += 1;
      const number = `${origin}${String(trace).padStart(7, '0')}`;
      lines.push(
        writeRecord(ACH_RECORDS.entry, {
          ...values,
          bank: bank.slice(0, 8),
          check: bank.slice(8),
          addenda: information ? '1' : '0',
          trace: number,
        }),
      );
      banks.push(bank);
      entries += 1;
      if (!information) return;
      lines.push(writeRecord(ACH_RECORDS.addenda, { information, sequence: '1', entry: String(trace).padStart(7, '0') }));
      entries += 1;
    };
    for (const payment of group.payments) {
      const kind = payment.kind || 'checking';
      const transaction = payment.amount === 0 ? PRENOTE[kind] : CREDIT[kind];
      const { account, amount, reference, name } = payment;
      entry(
        { transaction, account, amount: String(amount), reference, name: name.toUpperCase() },
        payment.bank,
        payment.purpose === 'support' ? supportAddenda(payment) : '',
      );
      credits += amount;
    }
    if (serviceClass === '200') {
      entry(
        {
          transaction: DEBIT,
          account: payer.account,
          amount: String(credits),
          reference: `OFFSET${index + 1}`,
          name: payer.name.toUpperCase(),
        },
        payer.bank,
      );
      debits = credits;
    }
    lines.push(
      writeRecord(ACH_RECORDS.batchControl, {
        ...shared,
        entries: String(entries),
        hash: hashed(banks),
        debits: String(debits),
        credits: String(credits),
      }),
    );
    all = { entries: all.entries + entries, banks: [...all.banks, ...banks], debits: all.debits + debits, credits: all.credits + credits };
  });
  lines.push(
    writeRecord(ACH_RECORDS.fileControl, {
      batches: String(groups.length),
      blocks: String(Math.ceil((lines.length + 1) / 10)),
      entries: String(all.entries),
      hash: hashed(all.banks),
      debits: String(all.debits),
      credits: String(all.credits),
    }),
  );
  while (lines.length % 10) lines.push(FILLER);
  return `${lines.join('\n')}\n`;
}

export interface AchLine {
  record: keyof typeof ACH_RECORDS;
  values: Record<string, string>;
}

const BY_TYPE = { '1': 'file', '5': 'batch', '6': 'entry', '7': 'addenda', '8': 'batchControl', '9': 'fileControl' } as const;

/** Every line by its description; faults with their position where one is not as described. */
export function readAch(content: string): { lines: AchLine[]; faults: FixedFault[] } {
  const lines: AchLine[] = [];
  const faults: FixedFault[] = [];
  content
    .replace(/\n$/, '')
    .split('\n')
    .forEach((held, index) => {
      if (held === FILLER) return;
      const record = BY_TYPE[held.charAt(0) as keyof typeof BY_TYPE] as AchLine['record'] | undefined;
      if (!record) return void faults.push({ line: index + 1, column: 1, what: `no record begins with ${held.charAt(0) || 'nothing'}` });
      const read = readRecord(ACH_RECORDS[record], held, index + 1);
      faults.push(...read.faults);
      lines.push({ record, values: read.values });
    });
  return { lines, faults };
}

export const ach: PaymentFormat = { code: 'ach', name: 'ACH file', extension: 'ach', mediaType: 'text/plain', write: writeAch };
