import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { createHash } from 'node:crypto';
import { NOTHING, type Fault, type Read } from '../read';

const parser = new XMLParser({
  ignoreAttributes: false,
  parseTagValue: false,
  isArray: (name) => ['Employee', 'NIlettersAndValues', 'Line', 'Key'].includes(name),
});
type Node = Record<string, unknown>;

/** What stands at a path of elements. */
export const at = (node: unknown, ...path: string[]): unknown =>
  path.reduce<unknown>((here, key) => (here as Node | undefined)?.[key], node);
export const text = (value: unknown): string =>
  typeof value === 'string' ? value.trim() : value === undefined ? '' : text((value as Node | undefined)?.['#text'] ?? '');
export const list = (value: unknown): unknown[] => (Array.isArray(value) ? (value as unknown[]) : []);

export type Say = (code: string, sentence: string, person?: string) => void;

const CLASSES: Readonly<Record<string, string>> = {
  FullPaymentSubmission: 'HMRC-PAYE-RTI-FPS',
  EmployerPaymentSummary: 'HMRC-PAYE-RTI-EPS',
};

/** The mark of the body as it came, without the mark in it. The body inherits its name space from the message. */
function markOf(content: string): string {
  const body = /<Body>[\s\S]*<\/Body>/.exec(content)?.[0] ?? '';
  const bare = body.replace(/<IRmark[^>]*>[^<]*<\/IRmark>/, '').replace('<Body>', '<Body xmlns="http://www.govtalk.gov.uk/CM/envelope">');
  return createHash('sha1').update(bare, 'utf8').digest('base64');
}

/** An envelope in real time: whose it is, and what its header says against its body. */
export function readEnvelope(
  content: string,
  kind: string,
  form: string,
  check: (body: unknown, to: string, fault: Say, signedOn: string) => { from: string },
): Read {
  const valid = XMLValidator.validate(content);
  if (valid !== true) return { ...NOTHING, faults: [{ code: 'XML', text: `line ${valid.err.line}: ${valid.err.msg}` }] };
  const message = at(parser.parse(content), 'GovTalkMessage');
  const root = at(message, 'Body', 'IRenvelope');
  const body = at(root, kind);
  const faults: Fault[] = [];
  const fault: Say = (code, sentence, person) => void faults.push({ code, text: sentence, ...(person ? { person } : {}) });
  if (text(at(message, 'Header', 'MessageDetails', 'Class')) !== CLASSES[kind])
    fault('CLASS', 'the message is not of the class of its body');
  if (text(at(root, 'IRheader', 'IRmark')) !== markOf(content))
    fault('IRMARK', 'the mark is not that of the body: it was changed on the way');
  const to = text(at(root, 'IRheader', 'PeriodEnd'));
  const reference = `${text(at(body, 'EmpRefs', 'OfficeNo'))}/${text(at(body, 'EmpRefs', 'PayeRef'))}`;
  const keys = list(at(root, 'IRheader', 'Keys', 'Key')).map(text);
  if (keys.join('/') !== reference) fault('KEYS', 'the keys of the header are not the references of the employer');
  if (!/^\d{4}-\d\d-\d\d$/.test(to)) fault('PERIOD', 'the day that it is for is none');
  if (!/^\d{3}P[A-Z]\d{7}[0-9X]$/.test(text(at(body, 'EmpRefs', 'AORef')))) fault('AO-REF', 'the Accounts Office reference is none');
  const start = Number(to.slice(0, 4)) - (to.slice(5) < '04-06' ? 1 : 0);
  if (text(at(body, 'RelatedTaxYear')) !== `${String(start).slice(2)}-${String(start + 1).slice(2)}`)
    fault('YEAR', 'the tax year is not that of the day');
  const signedOn = /\d{4}-\d\d-\d\d$/.exec(text(at(root, 'IRheader', 'SignedBy')))?.[0] ?? '';
  const { from } = check(body, to, fault, signedOn);
  return {
    form,
    from,
    to,
    taxpayer: reference,
    name: text(at(body, 'EmployerName')),
    signed: text(at(root, 'IRheader', 'SignedBy')) !== '',
    corrects: text(at(body, 'Correction')) === 'yes',
    ahead: true,
    faults,
  };
}
