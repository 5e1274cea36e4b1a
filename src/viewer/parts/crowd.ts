import { SHADED } from "../../core/scene/shapes/discs";
import { shadedSvg } from "../../core/scene/shapes/shaded";
import { CROWDS } from "../plot/canvas";
import { Crowd } from "../plot/crowd";

CROWDS.add(Crowd);
SHADED.add(shadedSvg);
