/** An address within the application as the router's links take it: they write out each part themselves. */
export const partsOf = (address: string): string[] =>
  address.split('/').map((part, index) => (index === 0 ? '/' : decodeURIComponent(part)));
