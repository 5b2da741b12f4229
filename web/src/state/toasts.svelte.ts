export interface Toast {
  id: number;
  text: string;
  bad: boolean;
  undo?: () => void;
}

let next = 1;
const STAYS = 6_000;

class Toasts {
  list = $state<Toast[]>([]);

  say(text: string, undo?: () => void) {
    this.#add({ id: next++, text, bad: false, undo });
  }

  fail(error: unknown) {
    this.#add({ id: next++, text: error instanceof Error ? error.message : String(error), bad: true });
  }

  close(id: number) {
    this.list = this.list.filter((t) => t.id !== id);
  }

  #add(toast: Toast) {
    this.list = [...this.list.slice(-3), toast];
    setTimeout(() => this.close(toast.id), toast.bad ? STAYS * 2 : STAYS);
  }
}

export const toasts = new Toasts();
