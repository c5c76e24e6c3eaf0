/** An address within the application as the router's links take it: they write out each part themselves. */
export const partsOf = (address: string): string[] =>
  (address.split('#')[0] ?? '').split('/').map((part, index) => (index === 0 ? '/' : decodeURIComponent(part)));

/** The part of a page that an address means; undefined where it means the whole. */
export const fragmentOf = (address: string): string | undefined => address.split('#')[1];
