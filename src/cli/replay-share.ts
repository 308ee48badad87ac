/** A process that replays a share of a log's lines, from standard input, with the arguments of `mirada replay`. Prints its tally, serialized. */
import { serialize } from "node:v8";
import { Replay } from "@/core/replay/replay";
import { exitBy } from "./input";
import { readLog, readReplay } from "./replay-log";

exitBy(async () => {
  const { ruleset, options } = readReplay(process.argv.slice(2));
  const replay = new Replay(ruleset, options);
  const decoder = new TextDecoder();
  await readLog("-", (piece) => replay.take(decoder.decode(piece, { stream: true })));
  process.stdout.write(serialize(replay.tally()));
  return 0;
});
