/** An element with its content; nothing of it where there is none. */
export type Element = readonly [name: string, content: string | readonly (Element | null)[], attributes?: Readonly<Record<string, string>>];

const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (letter) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[letter] ?? letter);

/** Letters of a text as canonical XML writes them. */
const canonicalText = (text: string): string =>
  text.replace(/[&<>\r]/g, (letter) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '\r': '&#xD;' })[letter] ?? letter);
const canonicalValue = (text: string): string =>
  text.replace(
    /[&<"\t\n\r]/g,
    (letter) => ({ '&': '&amp;', '<': '&lt;', '"': '&quot;', '\t': '&#x9;', '\n': '&#xA;', '\r': '&#xD;' })[letter] ?? letter,
  );

/** An element as Canonical XML 1.0 (W3C) writes it: the name space first, attributes in their order, nothing between elements. */
export function canonicalXml([name, content, attributes = {}]: Element): string {
  const order = Object.keys(attributes).sort((a, b) => (a === 'xmlns' ? -1 : b === 'xmlns' ? 1 : a < b ? -1 : 1));
  const head = `${name}${order.map((key) => ` ${key}="${canonicalValue(attributes[key] ?? '')}"`).join('')}`;
  const inner =
    typeof content === 'string' ? canonicalText(content) : content.map((element) => (element ? canonicalXml(element) : '')).join('');
  return `<${head}>${inner}</${name}>`;
}

/** An XML document of elements, indented, in UTF-8. */
export function xmlOf(root: Element): string {
  return `<?xml version="1.0" encoding="UTF-8"?>\n${written(root, '')}\n`;
}

function written([name, content, attributes = {}]: Element, indent: string): string {
  const head = `${name}${Object.entries(attributes)
    .map(([key, value]) => ` ${key}="${escaped(value)}"`)
    .join('')}`;
  if (typeof content === 'string') return `${indent}<${head}>${escaped(content)}</${name}>`;
  const inner = content.flatMap((element) => (element ? [written(element, `${indent}  `)] : []));
  return inner.length ? `${indent}<${head}>\n${inner.join('\n')}\n${indent}</${name}>` : `${indent}<${head}/>`;
}
