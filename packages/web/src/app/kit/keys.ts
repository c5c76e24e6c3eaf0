import { DOCUMENT, inject, Injectable, signal } from '@angular/core';

export interface Key {
  /** As written in the list: "n", "Ctrl+Enter", "g p". */
  keys: string;
  label: string;
  run: () => void;
}

/** Keys of the page that is open. Pages add theirs and take them back when they are left. */
@Injectable({ providedIn: 'root' })
export class Keys {
  private readonly all = signal<readonly Key[]>([]);
  readonly list = this.all.asReadonly();
  private prefix = '';

  constructor() {
    inject(DOCUMENT).addEventListener('keydown', (event) => this.pressed(event));
  }

  /** Adds keys; the function it gives takes them back. */
  add(...keys: Key[]): () => void {
    this.all.update((all) => [...all, ...keys]);
    return () => this.all.update((all) => all.filter((key) => !keys.includes(key)));
  }

  private pressed(event: KeyboardEvent): void {
    const name = `${event.ctrlKey || event.metaKey ? 'Ctrl+' : ''}${event.key}`;
    const typing = (event.target as HTMLElement).closest('input, textarea, select, [contenteditable]') !== null;
    if (typing && !event.ctrlKey && event.key !== 'Escape' && event.key !== 'F1') return;
    const wanted = this.prefix ? `${this.prefix} ${name}` : name;
    this.prefix = !this.prefix && name === 'g' ? 'g' : '';
    const found = [...this.all()].reverse().find((key) => key.keys === wanted);
    if (!found) return;
    event.preventDefault();
    found.run();
  }
}
