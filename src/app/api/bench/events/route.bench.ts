export { takeBarely as POST } from "../../../../../bin/bench-data/bare-events";
