import base from "./playwright.config";
const { webServer: _w, ...rest } = base as any;
export default { ...rest, projects: undefined };
