-- The content library, and which arms pick from it.
create table library_blocks (like block_types including all);
create table picks (like block_types including all);
alter table library_blocks add foreign key (site) references sites;
alter table picks add foreign key (site) references sites;

-- Other hosts that visitors may be sent to, and whose pages may stand in a frame.
alter table site_delivery add column other_hosts text[] not null default '{}';

-- The changes of one thing of the draft, newest first.
create index edits_of_site on edits (site, number desc);

-- The demo shop's own: who asked for its letter.
create table shop_letters (
  site text not null references sites,
  address text not null,
  asked_at timestamptz not null default now(),
  primary key (site, address)
);
