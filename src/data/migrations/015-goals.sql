-- What visitors are hoped to do: part of the draft, as redirects are.
create table goals (like redirects including all);
alter table goals add foreign key (site) references sites;

-- What happened on a day, in words: stands in the charts of results.
create table annotations (
  site text not null references sites,
  id text not null,
  day date not null,                    -- of the site's own calendar
  says text not null,
  made_at timestamptz not null default now(),
  made_by text not null,
  primary key (site, id)
);
create index annotations_by_day on annotations (site, day);

-- Links by which anybody reads the results of one slot, and nothing else.
create table result_links (
  site text not null references sites,
  id text not null,                     -- the SHA-256 of the link's name: whoever has it may look
  slot text not null,
  goal text not null,                   -- empty: the first that is reached
  first_day date not null,
  last_day date,                        -- empty: until the day on which it is looked at
  made_at timestamptz not null default now(),
  made_by text not null,
  ends_at timestamptz not null,
  primary key (site, id)
);
create index result_links_by_id on result_links (id);

do $$
declare
  name text;
begin
  foreach name in array array['goals', 'annotations', 'result_links'] loop
    execute format('alter table %I enable row level security', name);
    execute format('alter table %I force row level security', name);
    execute format('create policy one_site on %I using (one_site(site))', name);
  end loop;
end $$;
