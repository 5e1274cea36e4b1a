import { TABS, Tabs } from "../tabs";

TABS.add(Tabs);
