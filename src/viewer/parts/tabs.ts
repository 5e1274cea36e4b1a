import { TABS, Tabs } from "../tabs";

TABS.add("tabs", Tabs);
