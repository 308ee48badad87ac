/** A process that replays one share of a log's visitors: NUMBER OF, then the arguments of `mirada replay`. Prints its tally, serialized. */
import { serialize } from "node:v8";
import { Replay } from "@/core/replay/replay";
import { exitBy } from "./input";
import { readInto, readReplay } from "./replay-log";

exitBy(async () => {
  const [number, of, ...args] = process.argv.slice(2);
  const { ruleset, file, options } = readReplay(args);
  const replay = new Replay(ruleset, { ...options, share: { number: Number(number), of: Number(of) } });
  await readInto(file, replay);
  process.stdout.write(serialize(replay.tally()));
  return 0;
});
