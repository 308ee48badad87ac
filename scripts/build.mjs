// npm run build: the workbench, its processes and the page script. npm start does it by itself, if something has changed.
import { ensureBuild, main } from "./lib/steps.mjs";

await main(ensureBuild);
