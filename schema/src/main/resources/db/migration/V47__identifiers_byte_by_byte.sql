-- Identifiers are compared byte by byte: two of a channel's orders whose ids differ in case or in an
-- accent only are two orders. What people look for by its name is compared without case, and mail
-- addresses without case, but with their accents.
alter database collate utf8mb4_nopad_bin;
set foreign_key_checks = 0;
alter table allocation_plan convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table allocation_run convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table allocation_run_line convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table amendment convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table app_user convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table backorder convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table buyer_question convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table carrier convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table carrier_word convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table channel convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table column_mapping convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table consignment convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table customer convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table decision convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table depot_parcel convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table earmark convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table edition convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table event convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table exchange convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table exchange_rate convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table expected_supply convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table feed_hold convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table hook convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table hook_delivery convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table idempotency_key convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table intake_file convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table intake_row convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table item convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table item_tag convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table kit convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table kit_part convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table lane convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table listing convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table lot convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table machine_token convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table node convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table node_closure convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table order_choice convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table order_excluded_node convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table order_hold convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table order_line convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table order_payment convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table order_preferred_node convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table order_tag convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table outbox convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table parcel convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table parcel_scan convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table price_rule convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table promise convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table receipt convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table refund convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table refund_tender convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table refusal convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table refused_message convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table rehearsal convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table rehearsal_order convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table rma convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table rma_arrival convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table routing_pause convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table rule_stay convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table rule_trace convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table sales_order convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table saved_view convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table scheduled_tasks convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table service_word convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table sheet_memory convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table snag convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table stock_count convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table stock_count_line convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table stock_movement convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table stock_place convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table substitute convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table supplier convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table supplier_offer convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table tax_rate convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table waiting_list convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table webhook_seen convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table zone convert to character set utf8mb4 collate utf8mb4_nopad_bin;
alter table zone_match convert to character set utf8mb4 collate utf8mb4_nopad_bin;

alter table allocation_plan
  modify name varchar(80) collate utf8mb4_unicode_ci not null;
alter table allocation_run
  modify name varchar(80) collate utf8mb4_unicode_ci not null;
alter table app_user
  modify username varchar(40) collate utf8mb4_unicode_ci not null,
  modify display_name varchar(80) collate utf8mb4_unicode_ci not null;
alter table carrier
  modify name varchar(80) collate utf8mb4_unicode_ci not null;
alter table channel
  modify name varchar(80) collate utf8mb4_unicode_ci not null;
alter table intake_file
  modify name varchar(200) collate utf8mb4_unicode_ci not null;
alter table item
  modify name varchar(200) collate utf8mb4_unicode_ci not null;
alter table kit_part
  modify label varchar(40) collate utf8mb4_unicode_ci not null default '' comment 'how an order says that it chooses this one';
alter table listing
  modify title varchar(400) collate utf8mb4_unicode_ci not null;
alter table machine_token
  modify name varchar(80) collate utf8mb4_unicode_ci not null;
alter table node
  modify name varchar(80) collate utf8mb4_unicode_ci not null,
  modify city varchar(80) collate utf8mb4_unicode_ci not null;
alter table order_line
  modify title varchar(400) collate utf8mb4_unicode_ci not null;
alter table sales_order
  modify buyer_name varchar(200) collate utf8mb4_unicode_ci not null,
  modify ship_name varchar(200) collate utf8mb4_unicode_ci not null,
  modify ship_city varchar(120) collate utf8mb4_unicode_ci not null,
  modify email varchar(200) collate utf8mb4_uca1400_as_ci not null;
alter table saved_view
  modify name varchar(60) collate utf8mb4_unicode_ci not null;
alter table service_word
  modify wording varchar(120) collate utf8mb4_unicode_ci not null;
alter table snag
  modify title varchar(400) collate utf8mb4_unicode_ci not null;
alter table stock_count
  modify name varchar(80) collate utf8mb4_unicode_ci not null;
alter table supplier
  modify name varchar(80) collate utf8mb4_unicode_ci not null;
alter table supplier_offer
  modify title varchar(200) collate utf8mb4_unicode_ci not null;
alter table waiting_list
  modify email varchar(200) collate utf8mb4_uca1400_as_ci not null;

set foreign_key_checks = 1;
