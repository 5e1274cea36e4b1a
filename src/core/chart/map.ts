import type { Stage } from "../mark/mark";
import type { SceneUnder } from "../scene/scene";
import type { Ring } from "../scene/shapes/outlines";
import { px } from "../scene/shapes/shape";
import type { AxisInk } from "./axis-lines";
import type { ChartInput } from "./inputs";
import { mapStage, scaleBar } from "./map-stage";

const path = (ring: Ring, close: string) => {
  let out = "";
  for (let at = 0; at < ring.length; at += 2)
    out += `${at ? "L" : "M"}${px(ring[at] as number)} ${px(ring[at + 1] as number)}`;
  return out + close;
};

/** Lays a map into a stage, with its scale bar; answers what lies under the marks. */
export function drawMap(input: ChartInput, stage: Stage, ink: AxisInk): SceneUnder[] {
  const project = mapStage(input, stage.plot);
  stage.project = project;
  const bar = input.plan.map?.scaleBar ? scaleBar(project, stage.plot) : undefined;
  if (bar) {
    ink.axisLines.push(bar.line);
    ink.texts.push(bar.text);
  }
  const under = (input.under ?? []).flatMap(({ prepared }): SceneUnder[] => {
    const column = prepared.keys.get("place");
    if (column?.kind !== "text") return [];
    const places = column.dictionary.filter((_, code) => column.codes.includes(code));
    const land = places.flatMap((place) => project.rings(place).map((ring) => path(ring, "z"))).join("");
    const ways = places.flatMap((place) => project.lines(place).map((ring) => path(ring, ""))).join("");
    return [
      ...(land ? [{ path: land, fill: "land", stroke: "rule", clip: stage.plot }] : []),
      ...(ways ? [{ path: ways, stroke: "rule", clip: stage.plot }] : []),
    ];
  });
  const edge = project.edge.map((ring) => path(ring, "z")).join("");
  return edge ? [{ path: edge, stroke: "rule", clip: stage.plot }, ...under] : under;
}
