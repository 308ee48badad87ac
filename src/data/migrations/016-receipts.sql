-- What is told without the note that came with what was shown, and what crawlers tell, counts apart from results.
alter table events add column apart text not null default '';
alter table event_hours add column apart text not null default '';
alter table event_hours drop constraint event_hours_pkey;
alter table event_hours add primary key (site, hour, kind, slot, variant, arm, name, country, source, device, apart);
