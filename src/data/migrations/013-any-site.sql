-- Sites of any kind: a mirror for pages that do not stand in frames, and what is known of pages that have changed under their slots.

-- As 012 makes it; databases that had an earlier form of it have none.
create or replace function site_tables() returns setof name language sql stable as $$
  select c.relname from pg_class c join pg_attribute a on a.attrelid = c.oid
  where c.relnamespace = current_schema()::regnamespace and c.relkind in ('r', 'p') and not c.relispartition
    and a.attname = 'site' and not a.attisdropped
$$;

-- The mirror: an origin of its own for whoever looks at a site.
create table mirrors (
  site text not null references sites,
  id text not null,                     -- the first label of its hosts: whoever has it may look
  session text,
  share text,                           -- or the shared lens that is looked at
  expires_at timestamptz not null,
  primary key (site, id),
  check ((session is null) <> (share is null))
);
create index mirrors_by_id on mirrors (id);
create unique index mirrors_of_sessions on mirrors (site, session) where session is not null;
create unique index mirrors_of_shares on mirrors (site, share) where share is not null;

-- Where a page no longer fits a slot or a version: told by visitors' pages, once a session each.
create table drift (
  site text not null references sites,
  path text not null,
  slot text not null,
  variant text not null,                -- empty: the place itself
  why text not null,
  since timestamptz not null default now(),
  last_at timestamptz not null default now(),
  visitors bigint not null default 1,   -- how many got the page's own content instead
  primary key (site, path, slot, variant)
);
-- When the server has looked at the pages of a site by itself, and what it found.
create table page_looks (
  site text primary key references sites,
  at timestamptz not null default now(),
  found jsonb not null default '[]'
);
do $$
declare
  name text;
begin
  foreach name in array array['mirrors', 'drift', 'page_looks'] loop
    execute format('alter table %I enable row level security', name);
    execute format('alter table %I force row level security', name);
    execute format('create policy one_site on %I using (one_site(site))', name);
  end loop;
end $$;
