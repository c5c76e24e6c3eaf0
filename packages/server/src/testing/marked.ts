import { createHash } from 'node:crypto';

/** A submission that was changed, with the mark that its sender would have given it: what is wrong in it is not only the mark. */
export function marked(content: string): string {
  const without = content.replace(/<IRmark[^>]*>[^<]*<\/IRmark>/, '');
  const body = without.slice(without.indexOf('<Body>'), without.indexOf('</Body>') + 7);
  const whole = body.replace('<Body>', '<Body xmlns="http://www.govtalk.gov.uk/CM/envelope">');
  return content.replace(/(<IRmark[^>]*>)[^<]*/, `$1${createHash('sha1').update(whole).digest('base64')}`);
}
