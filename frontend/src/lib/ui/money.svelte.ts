import { grouped } from './numbers';

/** The shop's currency, as its settings tell it. */
class ShopMoney {
  currency = $state('$');
}
export const shopMoney = new ShopMoney();

/** What a value of a kind is followed by, or has before it: a price has the shop's currency. */
export const unitOf = (kind: string, unit: string): string =>
  kind === 'price' ? shopMoney.currency : unit;

/** An amount with its currency, thousands apart, in whole cents as the invoice prints it. */
export function money(value: number): string {
  const sign = value <= -0.005 ? '−' : '';
  return `${sign}${shopMoney.currency} ${grouped(Math.abs(value), 2)}`.trim();
}

/** What something costs more or less than another. */
export function moneyMore(value: number): string {
  return Math.abs(value) < 0.005 ? '±0' : value > 0 ? `+${money(value)}` : money(value);
}
