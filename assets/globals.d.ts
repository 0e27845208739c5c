// What the vendored scripts add to a page: their objects, and the events they send.

declare const Alpine: { data(name: string, make: () => object): void };

declare const htmx: {
  ajax(verb: string, path: string, context: { target: Element; swap: string }): Promise<void>;
  trigger(selector: string, name: string): void;
};

interface DocumentEventMap {
  "htmx:afterRequest": CustomEvent;
  "htmx:afterSettle": CustomEvent;
  "htmx:beforeRequest": CustomEvent;
  "htmx:beforeSwap": CustomEvent;
  "htmx:configRequest": CustomEvent;
  "htmx:xhr:progress": CustomEvent;
}
