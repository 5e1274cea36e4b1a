import { FIELDS, SetField } from "../controls/field";
import { CONTROLS } from "../controls/make";

for (const [name, type] of Object.entries(FIELDS))
  CONTROLS.add(`set ${name}`, (app, control, host) => new SetField(app, control, host, type));
