-- Rungs say how many consignments they allow and how much they must fill; until now it was one, and all.
update edition
set body = replace(body, '"late":', '"maxConsignments":1,"cover":"WHOLE","late":')
where body not like '%"maxConsignments"%';
