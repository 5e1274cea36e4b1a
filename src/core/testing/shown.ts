import { expect } from "vitest";
import "../link/all";
import { Model } from "../model/model";
import { plainValue } from "../query/categories";
import { LayerValues } from "../query/values";
import { compileText } from "./compile-text";

/** Makes running dashboards over one sheet without faults, each without a past; the sheet is compiled once. */
export function modelsOf(text: string): () => Model {
  const compiled = compileText(text);
  expect(compiled.findings.filter(({ severity }) => severity === "error").map(({ message }) => message)).toEqual([]);
  return () => new Model(compiled.plan, compiled.tables);
}

/** A running dashboard over a sheet without faults. */
export const modelOf = (text: string): Model => modelsOf(text)();

/** What a piece shows, group by group: its keys and values as one text each. */
export function shown(model: Model, piece: string): string[] {
  return model.askedBy(piece).flatMap((asked) => {
    const answer = model.engine.answer(asked);
    const values = new LayerValues(answer, model.engine.all(asked));
    const names = Object.keys(asked.query.channels);
    return [...answer.counts.keys()]
      .filter((id) => (answer.counts[id] as number) > 0)
      .map((id) =>
        JSON.stringify(
          names.map((name) => {
            const column = values.get(name);
            return column ? plainValue(column, id) : null;
          }),
        ),
      )
      .sort();
  });
}
