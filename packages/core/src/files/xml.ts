/** An element with its content; nothing of it where there is none. */
export type Element = readonly [name: string, content: string | readonly (Element | null)[], attributes?: Readonly<Record<string, string>>];

const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (letter) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[letter] ?? letter);

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
