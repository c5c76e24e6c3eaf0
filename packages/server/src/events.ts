/** Something that a lower floor tells; whoever is above hears it, within the same use case, in the order of subscribing. */
export interface Event<P> {
  tell(payload: P): Promise<void>;
  hear(listener: (payload: P) => Promise<unknown>): void;
}

/** Made in the `events.ts` of the feature that tells; subscribed to in `subscriptions.ts`. */
export function event<P>(): Event<P> {
  const listeners: ((payload: P) => Promise<unknown>)[] = [];
  return {
    async tell(payload) {
      for (const listener of listeners) await listener(payload);
    },
    hear: (listener) => void listeners.push(listener),
  };
}
