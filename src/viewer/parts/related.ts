import { RELATED } from "../../core/link/instances";
import { RelatedInstances } from "../../core/link/related-instances";

RELATED.add(RelatedInstances);
