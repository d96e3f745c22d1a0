export { sendRows as GET } from "../../../../../bin/bench-data/bare-routes";
