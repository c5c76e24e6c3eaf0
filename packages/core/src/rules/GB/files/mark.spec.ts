import { createHash } from 'node:crypto';
import { canonicalXml } from '../../../files/xml';
import { markOf } from './envelope';

// Canonical XML 1.0, W3C; HMRC, Generic IRmark technical specification.
describe('The mark of a submission', () => {
  it('is SHA-1 in base 64 of the canonical body', () => {
    const body = '<Body xmlns="http://www.govtalk.gov.uk/CM/envelope"><IRenvelope></IRenvelope></Body>';
    expect(markOf(body)).toBe(createHash('sha1').update(body).digest('base64'));
    // RFC 3174, test 1.
    expect(markOf('abc')).toBe('qZk+NkcGgWq6PiVxeFDCbJzQ2J0=');
  });

  it('goes by a body without anything that could be written in two ways', () => {
    const element = ['A', [['B', 'a & b < c > d "e"', { z: '1', b: '"&<\n', xmlns: 'urn:x' }], null, ['C', []]], {}] as const;
    expect(canonicalXml(element)).toBe('<A><B xmlns="urn:x" b="&quot;&amp;&lt;&#xA;" z="1">a &amp; b &lt; c &gt; d "e"</B><C></C></A>');
  });
});
