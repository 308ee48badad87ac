"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useMemo } from "react";
import type { Actions } from "@/server/actions";
import { whyNot } from "./actions";
import { useDesk } from "./desk/desk";

type Asking = keyof Actions;
type Answer<Name extends Asking> = Exclude<Awaited<ReturnType<Actions[Name]>>, undefined>;

interface Options {
  /** Whether it is asked at all. */
  when?: boolean;
  /** What else it leans on: asked anew when that changes, with the last answer shown meanwhile. */
  since?: readonly unknown[];
  /** Asked again every so many milliseconds, while the page is looked at. */
  every?: number;
  /** For how many milliseconds an answer is believed. */
  believed?: number;
  /** The last answer stays until this one is there, if so many of the first arguments are the same. */
  keepBy?: number;
}

interface Told<Name extends Asking> {
  value: Answer<Name> | undefined;
}
/** What an answer is kept under: site, action, arguments, and what else it leans on. */
type Key = [site: string, name: string, args: unknown[], since: unknown[]];
const alike = (a: Key, b: Key, by: number): boolean =>
  a[0] === b[0] && a[1] === b[1] && JSON.stringify(a[2].slice(0, by)) === JSON.stringify(b[2].slice(0, by));

export interface Asked<T> {
  /** Undefined until it is there. */
  value: T | undefined;
  /** Why it could not be had, the last time. */
  problem: string | undefined;
  /** Whether it is being asked just now. */
  asking: boolean;
  /** Asks anew; done once the answer is there. */
  again: () => Promise<void>;
  /** Takes what another answer told of it. */
  set: (value: T) => void;
}

/** What an action answers on the site at hand, asked when a screen needs it. */
export function useAsked<Name extends Asking>(
  name: Name,
  args: Parameters<Actions[Name]>,
  { when = true, since = [], every, believed = 0, keepBy = args.length }: Options = {},
): Asked<Answer<Name>> {
  const { site, actions } = useDesk();
  const client = useQueryClient();
  const mark = JSON.stringify([site, name, args, since]);
  const key = useMemo(() => JSON.parse(mark) as Key, [mark]);
  const ask = actions[name] as (...of: unknown[]) => Promise<Answer<Name> | undefined>;
  const { data, error, isFetching, refetch } = useQuery<Told<Name>, Error, Told<Name>, Key>({
    queryKey: key,
    queryFn: async () => ({ value: await ask(...(args as unknown[])) }),
    enabled: when,
    staleTime: believed,
    ...(every === undefined ? {} : { refetchInterval: every }),
    placeholderData: (last, of) => (of && alike(of.queryKey, key, keepBy) ? last : undefined),
  });
  const again = useCallback(() => refetch().then(() => undefined), [refetch]);
  const set = useCallback(
    (value: Answer<Name>) => {
      // What is on its way was asked for before.
      void client.cancelQueries({ queryKey: key });
      client.setQueryData<Told<Name>>(key, { value });
    },
    [client, key],
  );
  return {
    value: data?.value,
    problem: error ? whyNot(error) : undefined,
    asking: isFetching,
    again,
    set,
  };
}
