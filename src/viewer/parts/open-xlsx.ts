import { DECODED } from "../open/kit";
import { workbooks } from "../open/workbooks";

DECODED.add("xlsx", workbooks);
