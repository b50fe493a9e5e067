import 'fake-indexeddb/auto';
import { cleanup } from '@testing-library/svelte';
import { afterEach } from 'vitest';
import { shop } from './shop';

afterEach(cleanup);

const Plain = globalThis.Request;

/** Requests as the page makes them, without a host. */
class FromPage extends Plain {
  constructor(input: RequestInfo | URL, init?: RequestInit) {
    super(typeof input === 'string' && input.startsWith('/') ? `http://shop${input}` : input, init);
  }
}

globalThis.Request = FromPage;
globalThis.fetch = (input, init) => shop.answer(new FromPage(input as RequestInfo, init));

// The document of the tests knows no modal dialogs; open and closed are all they look at.
HTMLDialogElement.prototype.showModal ??= function (this: HTMLDialogElement) {
  this.open = true;
};
HTMLDialogElement.prototype.close ??= function (this: HTMLDialogElement) {
  this.open = false;
  this.dispatchEvent(new Event('close'));
};

// Nothing has a size here; what is drawn is drawn at its usual width.
globalThis.ResizeObserver ??= class {
  observe(): void {}
  unobserve(): void {}
  disconnect(): void {}
};
