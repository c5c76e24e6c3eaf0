/** An element as it was read, whoever read it. */
export interface XmlNode {
  name: string;
  attributes: Readonly<Record<string, string>>;
  text: string;
  children: readonly XmlNode[];
}

/** The first child of a name. */
export const childOf = (node: XmlNode | undefined, name: string): XmlNode | undefined =>
  node?.children.find((child) => child.name === name);
/** The text at a path of children; empty where there is none. */
export const textAt = (node: XmlNode, ...path: string[]): string =>
  (path.reduce<XmlNode | undefined>((here, name) => childOf(here, name), node)?.text ?? '').trim();
/** Every element of a name, wherever it stands. */
export const everyOf = (node: XmlNode, name: string): XmlNode[] => [
  ...(node.name === name ? [node] : []),
  ...node.children.flatMap((child) => everyOf(child, name)),
];
