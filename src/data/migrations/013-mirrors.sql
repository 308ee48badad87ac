-- The mirror: an origin of its own for whoever looks at a site, under which its pages are shown that do not stand in frames.

-- As 012 makes it; databases that had an earlier form of it have none.
create or replace function site_tables() returns setof name language sql stable as $$
  select c.relname from pg_class c join pg_attribute a on a.attrelid = c.oid
  where c.relnamespace = current_schema()::regnamespace and c.relkind in ('r', 'p') and not c.relispartition
    and a.attname = 'site' and not a.attisdropped
$$;

create table mirrors (
  site text not null references sites,
  id text not null unique,              -- the first label of its hosts: whoever has it may look
  session text references sessions on delete cascade,
  share text,                           -- or the shared lens that is looked at
  expires_at timestamptz not null,
  primary key (site, id),
  check ((session is null) <> (share is null))
);
create unique index mirrors_of_sessions on mirrors (site, session) where session is not null;
create unique index mirrors_of_shares on mirrors (site, share) where share is not null;

alter table mirrors enable row level security;
alter table mirrors force row level security;
create policy one_site on mirrors using (one_site(site));
