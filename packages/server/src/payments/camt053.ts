import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { invalid } from '../errors';

/** A movement of a statement, as the bank says it. */
export interface StatementLine {
  statement: string;
  /** By which the bank names it; the same line again has the same. */
  entry: string;
  on: string;
  /** Minor units, less than nothing where money left. */
  amount: number;
  reference: string;
  code: string;
  words: string;
}

export interface Statement {
  account: string;
  bank: string;
  day: string;
  closing: number;
  lines: StatementLine[];
}

type Node = Record<string, unknown>;
const MANY = ['Stmt', 'Bal', 'Ntry', 'TxDtls'];
const parser = new XMLParser({ ignoreAttributes: false, parseTagValue: false, isArray: (name) => MANY.includes(name) });

const at = (node: unknown, ...path: string[]): unknown =>
  path.reduce<unknown>(
    (here, key) => (Array.isArray(here) ? (here[0] as Node | undefined)?.[key] : (here as Node | undefined)?.[key]),
    node,
  );
const text = (value: unknown): string =>
  typeof value === 'string' ? value.trim() : typeof value === 'object' ? text((value as Node | null)?.['#text']) : '';
const list = (value: unknown): Node[] => (Array.isArray(value) ? (value as Node[]) : []);

/** Statements of a file (ISO 20022, camt.053). What is no statement, or does not add up, is refused whole. */
export function readStatements(content: string): Statement[] {
  const valid = XMLValidator.validate(content);
  if (valid !== true) throw invalid(`The statement is no XML: ${valid.err.msg} in line ${valid.err.line}.`);
  const statements = list(at(parser.parse(content), 'Document', 'BkToCstmrStmt', 'Stmt'));
  if (!statements.length) throw invalid('The file holds no statement (camt.053). Ask the bank for one in ISO 20022.');
  return statements.map((statement) => {
    const id = text(at(statement, 'Id'));
    const balances = list(at(statement, 'Bal'));
    const balance = (code: string): number => {
      const found = balances.find((one) => text(at(one, 'Tp', 'CdOrPrtry', 'Cd')) === code);
      return found ? signed(at(found, 'Amt'), at(found, 'CdtDbtInd'), id) : 0;
    };
    const lines = list(at(statement, 'Ntry')).map((entry): StatementLine => ({
      statement: id,
      entry: text(at(entry, 'NtryRef')) || text(at(entry, 'AcctSvcrRef')),
      on: text(at(entry, 'BookgDt', 'Dt')),
      amount: signed(at(entry, 'Amt'), at(entry, 'CdtDbtInd'), id),
      reference: text(at(entry, 'NtryDtls', 'TxDtls', 'Refs', 'EndToEndId')),
      code: text(at(entry, 'NtryDtls', 'TxDtls', 'RtrInf', 'Rsn', 'Prtry')) || text(at(entry, 'NtryDtls', 'TxDtls', 'RtrInf', 'Rsn', 'Cd')),
      words: text(at(entry, 'NtryDtls', 'TxDtls', 'RtrInf', 'AddtlInf')),
    }));
    const nameless = lines.find(({ entry, on }) => !entry || !/^\d{4}-\d\d-\d\d$/.test(on));
    if (nameless) throw invalid(`Statement ${id} has an entry without a reference or a day. Ask the bank for it again.`);
    const moved = lines.reduce((sum, { amount }) => sum + amount, 0);
    if (balance('OPBD') + moved !== balance('CLBD'))
      throw invalid(
        `Statement ${id} does not add up: its movements do not lead from the first balance to the last. Ask the bank for it again.`,
      );
    return {
      account: text(at(statement, 'Acct', 'Id', 'Othr', 'Id')),
      bank: text(at(statement, 'Acct', 'Svcr', 'FinInstnId', 'ClrSysMmbId', 'MmbId')),
      day: lines[0]?.on ?? text(at(balances[0], 'Dt', 'Dt')),
      closing: balance('CLBD'),
      lines,
    };
  });
}

function signed(amount: unknown, side: unknown, statement: string): number {
  const written = text(amount);
  if (!/^\d{1,13}(\.\d{1,2})?$/.test(written)) throw invalid(`Statement ${statement} has an amount that is none: ${written || 'empty'}.`);
  const [whole = '0', part = ''] = written.split('.');
  const minor = Number(whole) * 100 + Number(part.padEnd(2, '0'));
  return text(side) === 'DBIT' ? -minor : minor;
}
