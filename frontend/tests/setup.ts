import 'fake-indexeddb/auto';
import { shop } from './shop';

const Plain = globalThis.Request;

/** Requests as the page makes them, without a host. */
class FromPage extends Plain {
  constructor(input: RequestInfo | URL, init?: RequestInit) {
    super(typeof input === 'string' && input.startsWith('/') ? `http://shop${input}` : input, init);
  }
}

globalThis.Request = FromPage;
globalThis.fetch = (input, init) => shop.answer(new FromPage(input as RequestInfo, init));
