import { TAKES } from "../table/take";
import { takeXlsx } from "../table/xlsx";

TAKES.add("xlsx", takeXlsx);
