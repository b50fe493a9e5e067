/** What opens takes the keyboard to its first empty field; closed, it gives it back. */
export function opens(node: HTMLElement, asked = true): { destroy(): void } {
  const before = document.activeElement;
  if (asked) {
    const fields = [
      ...node.querySelectorAll<HTMLInputElement | HTMLSelectElement>('input, select')
    ];
    (fields.find((one) => !one.value) ?? fields[0])?.focus();
  }
  return {
    destroy() {
      const now = document.activeElement;
      const left = now === document.body || node.contains(now);
      if (asked && left && before instanceof HTMLElement && before.isConnected) before.focus();
    }
  };
}

/** What follows from the key just pressed takes the keyboard. */
export function takes(node: HTMLElement, asked: boolean): void {
  if (asked) node.focus();
}
