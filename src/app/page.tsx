import { StartPage } from "../workbench/start/start-page";

export default function Page() {
  return <StartPage />;
}
