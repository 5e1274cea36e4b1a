import { element } from "./dom";

/** A dialog over the page that Escape closes, and nothing else with it; it leaves the page when it is closed. */
export function openDialog(label: string, look: string, ...content: (Node | string)[]): HTMLDialogElement {
  const dialog = element("dialog", { class: look, "aria-label": label }, ...content);
  dialog.addEventListener("close", () => dialog.remove());
  dialog.addEventListener("keydown", (event) => event.stopPropagation());
  document.body.append(dialog);
  dialog.showModal();
  return dialog;
}
