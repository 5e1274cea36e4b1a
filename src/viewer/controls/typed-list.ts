import { element } from "../dom";

export interface TypedOption {
  /** What is shown and typed. */
  label: string;
  /** What stands behind it in quiet ink, such as how many rows it would bring. */
  note: string;
}

/** Most options that are shown at once; typing narrows them. */
const MOST_SHOWN = 200;

/**
 * A list that can be typed into: the field narrows the options that hold what is typed, arrows walk
 * them, Enter picks, and text that is no option goes back to what is picked.
 */
export class TypedList {
  readonly field: HTMLElement;
  readonly input: HTMLInputElement;
  private readonly list: HTMLUListElement;
  private options: readonly TypedOption[] = [];
  /** Places of the options that are shown. */
  private shown: number[] = [];
  /** Which of those shown the keyboard stands on. */
  private at = -1;
  private text = "";

  constructor(
    id: string,
    placeholder: string,
    private readonly choose: (place: number) => void,
    private readonly clear: () => void,
  ) {
    this.list = element("ul", { class: "options", role: "listbox", id: `${id}-options`, hidden: "" });
    this.input = element("input", {
      type: "text",
      id,
      role: "combobox",
      "aria-expanded": "false",
      "aria-controls": `${id}-options`,
      "aria-autocomplete": "list",
      autocomplete: "off",
      placeholder,
    });
    this.field = element("div", { class: "typed" }, this.input, this.list);
    this.input.addEventListener("focus", () => this.input.select());
    this.input.addEventListener("click", () => this.open(""));
    this.input.addEventListener("input", () => this.open(this.input.value));
    this.input.addEventListener("keydown", (event) => this.key(event));
    this.input.addEventListener("blur", () => this.close());
    // The field keeps the focus while an option is pressed.
    this.list.addEventListener("pointerdown", (event) => event.preventDefault());
    this.list.addEventListener("click", (event) => {
      const item = (event.target as Element).closest<HTMLElement>("[data-place]");
      if (item) this.pick(Number(item.dataset.place));
    });
  }

  /** The options as they are now, and the text of what is picked. */
  show(options: readonly TypedOption[], text: string) {
    this.options = options;
    this.text = text;
    if (!this.list.hidden) this.write();
    else this.input.value = text;
  }

  private open(typed: string) {
    const part = typed.trim().toLowerCase();
    const places = this.options.map((_, place) => place);
    const holding = places.filter((place) => this.options[place]?.label.toLowerCase().includes(part));
    const begins = (place: number) => !this.options[place]?.label.toLowerCase().startsWith(part);
    holding.sort((a, b) => Number(begins(a)) - Number(begins(b)) || a - b);
    this.shown = holding.slice(0, MOST_SHOWN);
    this.at = part && this.shown.length ? 0 : -1;
    this.list.hidden = false;
    this.input.setAttribute("aria-expanded", "true");
    this.write();
  }

  private write() {
    this.list.replaceChildren(
      ...this.shown.map((place, at) => {
        const { label, note } = this.options[place] as TypedOption;
        return element(
          "li",
          {
            role: "option",
            id: `${this.list.id}-${place}`,
            "data-place": String(place),
            "aria-selected": String(at === this.at),
          },
          element("span", { class: "name" }, label),
          element("span", { class: "count" }, note),
        );
      }),
    );
    if (this.shown.length === 0)
      this.list.append(element("li", { role: "option", "aria-disabled": "true", "aria-selected": "false" }, "none"));
    const on = this.shown[this.at];
    if (on === undefined) this.input.removeAttribute("aria-activedescendant");
    else {
      this.input.setAttribute("aria-activedescendant", `${this.list.id}-${on}`);
      this.list.children[this.at]?.scrollIntoView({ block: "nearest" });
    }
  }

  private key(event: KeyboardEvent) {
    if (event.key === "ArrowDown" || event.key === "ArrowUp") {
      event.preventDefault();
      if (this.list.hidden) this.open("");
      const count = this.shown.length;
      const step = event.key === "ArrowDown" ? 1 : -1;
      if (count) this.at = this.at < 0 ? (step > 0 ? 0 : count - 1) : (this.at + step + count) % count;
      this.write();
    } else if (event.key === "Enter") {
      event.preventDefault();
      const on = this.shown[this.at];
      if (!this.list.hidden && on !== undefined) this.pick(on);
      else if (this.input.value.trim() === "") this.clear();
      this.close();
    } else if (event.key === "Escape" && !this.list.hidden) {
      event.preventDefault();
      event.stopPropagation();
      this.close();
    }
  }

  private pick(place: number) {
    this.list.hidden = true;
    this.choose(place);
    this.close();
  }

  private close() {
    this.list.hidden = true;
    this.at = -1;
    this.input.setAttribute("aria-expanded", "false");
    this.input.removeAttribute("aria-activedescendant");
    if (this.input.value.trim() === "" && this.text !== "") this.clear();
    this.input.value = this.text;
  }
}
