-- What all sites of an installation share: one row.
create table installation (
  one boolean primary key default true check (one),
  secret bytea not null,                -- seals what the workbench keeps in browsers
  set_up_link text,                     -- the SHA-256 of the name in the link with which it is first set up
  set_up_until timestamptz
);

-- Who works here, on whatever sites. An administrator makes sites and people.
create table accounts (
  id text primary key,
  name text not null,
  email text,                           -- empty: an account of before that was joined with another of the same address
  password text not null,               -- its Argon2 hash
  shown_password text,                  -- only of a demo's accounts: stands on the sign-in page
  administrator boolean not null default false,
  made_at timestamptz not null default now()
);
create unique index accounts_by_email on accounts (lower(email));

-- Until now each site had its people: whoever had the same address on several is one account from here on.
insert into accounts (id, name, email, password, shown_password, made_at)
select id, name, case when row_number() over same_address = 1 then email end, password, shown_password, joined_at
from people window same_address as (partition by lower(email) order by left_at is not null, joined_at, id);
drop table sessions;
delete from preview_passes where title is null;
update people set id = a.id from accounts a where lower(a.email) = lower(people.email) and a.id <> people.id;
update accounts set administrator = true where id = (
  select id from people where left_at is null and 'developer' = any(roles) order by cardinality(roles) desc, joined_at, id limit 1);
drop index people_by_email;
alter table people
  drop column name, drop column email, drop column password, drop column shown_password,
  add foreign key (id) references accounts;
create index people_by_account on people (id);

-- A session belongs to an account; at which site and screen somebody is stands beside it.
create table sessions (
  id text primary key,
  account text not null references accounts,
  began_at timestamptz not null default now(),
  seen_at timestamptz not null default now(),
  expires_at timestamptz not null,
  browser text not null default ''
);
create index sessions_of_account on sessions (account);
create table presence (
  site text not null references sites on delete cascade,
  session text not null references sessions on delete cascade,
  account text not null,
  screen text not null default '',      -- for the others to see
  here_until timestamptz not null,      -- by the last sign of life
  primary key (site, session)
);

-- One invitation may be to several sites: a row each, of one name.
create index invitations_by_name on invitations (id);

drop table failed_sign_ins;
create table failed_sign_ins (
  who text not null,                    -- by whatever failures are counted (an e-mail address, a network), hashed
  at timestamptz not null default clock_timestamp()
);
create index failed_sign_ins_lately on failed_sign_ins (who, at);

-- Under which origins a site is found; no two sites have the same. The first is the canonical one.
create table site_hosts (
  origin text primary key,
  site text not null references sites on delete cascade,
  position integer not null
);
create index site_hosts_of_site on site_hosts (site, position);
insert into site_hosts (origin, site, position)
select distinct on (settings->'site'->>'origin') settings->'site'->>'origin', site, 0 from sites
order by settings->'site'->>'origin', created_at;

alter table sites
  add column looked_at text,            -- the origin at which its pages are looked at; empty: the canonical one
  add column looked_by text not null default 'tag' check (looked_by in ('tag', 'process')), -- how they are
  add column examples jsonb not null default '{}',  -- what came with it to be tried out with
  add column archived_at timestamptz;   -- nobody works on it any more, and visitors get the page's own content

-- What one site has is seen by whoever works on that site alone, even where a query forgot to say which: the second lock.
create function one_site(site text) returns boolean language sql stable as $$
  select current_setting('mirada.site', true) in (site, '*')
$$;
-- The tables that hold what belongs to sites.
create function site_tables() returns setof name language sql stable as $$
  select c.relname from pg_class c join pg_attribute a on a.attrelid = c.oid
  where c.relnamespace = current_schema()::regnamespace and c.relkind in ('r', 'p') and not c.relispartition
    and a.attname = 'site' and not a.attisdropped
$$;
do $$
declare
  name text;
begin
  -- Which site has a host is asked by all of them.
  for name in select site_tables() except select 'site_hosts' loop
    execute format('alter table %I enable row level security', name);
    execute format('alter table %I force row level security', name);
    execute format('create policy one_site on %I using (one_site(site))', name);
  end loop;
end $$;

-- A release never changes; it goes only with the whole of its site.
create or replace function refuse_change() returns trigger language plpgsql as $$
begin
  if tg_op = 'DELETE' and current_setting('mirada.deleting', true) = old.site then
    return old;
  end if;
  raise exception 'a release never changes';
end $$;

-- Deletes everything of a site, in whatever order the tables hang together.
create function delete_site(gone text) returns void language plpgsql as $$
declare
  name text;
  again boolean := true;
begin
  perform set_config('mirada.deleting', gone, true);
  while again loop
    again := false;
    for name in select site_tables() loop
      begin
        execute format('delete from %I where site = $1', name) using gone;
      exception when foreign_key_violation then
        again := true;
      end;
    end loop;
  end loop;
  perform set_config('mirada.deleting', '', true);
end $$;
