import { useEffect } from "react";
import { useDesk } from "../desk/desk-context";
import { takeFiles } from "../desk/take-files";

/** While files are over the window its frames take no notice: the page around them takes the drop. */
export const setDragging = (dragging: boolean) => document.documentElement.classList.toggle("dragging", dragging);

const hasFiles = (event: DragEvent) => event.dataTransfer?.types.includes("Files") === true;

/**
 * Files that are dropped anywhere in the window are taken. Without this a browser would open the
 * file in place of the workbench.
 */
export function useDropAnywhere() {
  const desk = useDesk();
  useEffect(() => {
    const over = (event: DragEvent) => {
      if (!hasFiles(event)) return;
      event.preventDefault();
      setDragging(true);
      if (event.dataTransfer) event.dataTransfer.dropEffect = "copy";
    };
    const left = (event: DragEvent) => {
      if (event.relatedTarget === null) setDragging(false);
    };
    const dropped = (event: DragEvent) => {
      setDragging(false);
      if (!hasFiles(event)) return;
      event.preventDefault();
      event.stopPropagation();
      void takeFiles(desk, [...(event.dataTransfer?.files ?? [])]);
    };
    window.addEventListener("dragover", over);
    window.addEventListener("dragleave", left);
    // Before the text editor, which would write a file's text into the sheet.
    window.addEventListener("drop", dropped, { capture: true });
    return () => {
      window.removeEventListener("dragover", over);
      window.removeEventListener("dragleave", left);
      window.removeEventListener("drop", dropped, { capture: true });
    };
  }, [desk]);
}
