import type { App } from "./app";

/**
 * Lays the page out for paper before the printing begins: tables with all their rows, charts drawn
 * anew at the width of a sheet. Browsers print what stands there then; they do not wait for frames.
 */
export function listenToPrinting(app: App) {
  const print = (printing: boolean) => {
    if (app.printing === printing) return;
    app.layForPaper(printing);
    document.documentElement.classList.toggle("printing", printing);
    app.touchAll();
    app.flush();
    // Rows of tables change how high the page is, and with that how much room charts have.
    for (const view of app.views.values()) view.fit?.();
    app.flush();
  };
  app.listen(window, "beforeprint", () => print(true));
  app.listen(window, "afterprint", () => print(false));
}
