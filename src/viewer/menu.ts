import { button, element } from "./dom";

/** One line of a menu; `on` is said of what can be on or off. */
export interface MenuItem {
  label: string;
  press: () => void;
  on?: boolean;
}

/** A button that opens a list of things to do, asked for anew whenever it opens. */
export function menuButton(words: string, label: string, items: () => readonly MenuItem[]): HTMLButtonElement {
  const opener = button(words, () => (open ? close() : show()), {
    class: "menu-button",
    "aria-haspopup": "menu",
    "aria-expanded": "false",
    "aria-label": label,
  });
  let open: HTMLElement | undefined;
  const close = (refocus = true) => {
    open?.remove();
    open = undefined;
    opener.setAttribute("aria-expanded", "false");
    document.removeEventListener("pointerdown", outside, true);
    if (refocus) opener.focus();
  };
  const outside = (event: Event) => {
    if (!open?.contains(event.target as Node) && event.target !== opener) close(false);
  };
  const choose = (press: () => void) => {
    close();
    press();
  };
  const show = () => {
    const lines = items().map(({ label: text, press, on }) =>
      button(text, () => choose(press), {
        role: on === undefined ? "menuitem" : "menuitemcheckbox",
        tabindex: "-1",
        ...(on === undefined ? {} : { "aria-checked": String(on) }),
      }),
    );
    open = element("div", { class: "menu", role: "menu", "aria-label": label }, ...lines);
    open.addEventListener("keydown", (event) => keys(event, lines, close));
    document.body.append(open);
    placeBelow(open, opener);
    opener.setAttribute("aria-expanded", "true");
    document.addEventListener("pointerdown", outside, true);
    lines[0]?.focus();
  };
  return opener;
}

/** Below its button, its right edges in line, and within the window. */
function placeBelow(menu: HTMLElement, opener: HTMLElement) {
  const box = opener.getBoundingClientRect();
  const { width, height } = menu.getBoundingClientRect();
  const below = box.bottom + 4;
  menu.style.left = `${Math.max(4, box.right - width)}px`;
  menu.style.top = `${below + height > window.innerHeight ? Math.max(4, box.top - 4 - height) : below}px`;
}

function keys(event: KeyboardEvent, lines: readonly HTMLElement[], close: () => void) {
  const at = lines.indexOf(document.activeElement as HTMLElement);
  const next: Record<string, number> = {
    ArrowDown: (at + 1) % lines.length,
    ArrowUp: (at + lines.length - 1) % lines.length,
    Home: 0,
    End: lines.length - 1,
  };
  const wanted = next[event.key];
  if (event.key === "Escape" || event.key === "Tab") close();
  else if (wanted === undefined) return;
  else lines[wanted]?.focus();
  event.preventDefault();
  // Escape is for the menu, and not for the last selection as well.
  event.stopPropagation();
}
