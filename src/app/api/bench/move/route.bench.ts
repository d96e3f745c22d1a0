export { moveBarely as POST } from "../../../../../bin/bench-data/bare-routes";
