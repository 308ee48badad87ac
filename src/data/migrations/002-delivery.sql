-- How a site is served, beside its rules: what rules never see and no release carries.
create table site_delivery (
  site text primary key references sites,
  trusted_proxies text[] not null default '{}',   -- addresses or blocks whose X-Forwarded-For is believed
  secret bytea not null                           -- signs what is kept in visitors' browsers
);

-- Place data that was uploaded: asked in order before the country data that ships with the product.
create table place_files (
  site text not null references sites,
  id text not null,
  position integer not null,
  name text not null,
  format text not null check (format in ('csv', 'mmdb')),
  says text not null,                             -- what it holds, in words
  added_at timestamptz not null default now(),
  bytes bytea not null,
  primary key (site, id)
);

-- What a site sells, so that carts can be made up and rules can speak of it.
create table products (
  site text not null references sites,
  sku text not null,
  position integer not null,
  name text not null,
  category text not null,
  unit_price bigint not null check (unit_price >= 0),   -- minor units of the site's currency
  primary key (site, sku)
);
