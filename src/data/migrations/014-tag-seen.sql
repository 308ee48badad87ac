-- Where the tag was last heard from: by page, so that pages that have lost it are known, and from which origins it may not ask.
create table tag_seen (
  site text not null references sites,
  path text not null,
  first_at timestamptz not null default now(),
  last_at timestamptz not null default now(),
  primary key (site, path)
);
create table tag_refused (
  site text not null references sites,
  origin text not null,
  last_at timestamptz not null default now(),
  primary key (site, origin)
);
do $$
declare
  name text;
begin
  foreach name in array array['tag_seen', 'tag_refused'] loop
    execute format('alter table %I enable row level security', name);
    execute format('alter table %I force row level security', name);
    execute format('create policy one_site on %I using (one_site(site))', name);
  end loop;
end $$;
