import { Workbench } from "../workbench/workbench";

export default function Page() {
  return <Workbench />;
}
