import base from "./playwright.config";
export default { ...(base as any), projects: undefined, expect: { timeout: 15000 } };
