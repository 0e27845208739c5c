BEGIN TRANSACTION;
CREATE TABLE alembic_version (
	version_num VARCHAR(32) NOT NULL, 
	CONSTRAINT alembic_version_pkc PRIMARY KEY (version_num)
);
INSERT INTO "alembic_version" VALUES('0002');
CREATE TABLE events (
	id INTEGER NOT NULL, 
	job_id INTEGER NOT NULL, 
	seq INTEGER NOT NULL, 
	event_id VARCHAR(64) NOT NULL, 
	at DATETIME NOT NULL, 
	author VARCHAR(60) NOT NULL, 
	kind VARCHAR(30) NOT NULL, 
	body JSON NOT NULL, 
	PRIMARY KEY (id), 
	UNIQUE (job_id, seq), 
	FOREIGN KEY(job_id) REFERENCES jobs (id), 
	UNIQUE (event_id)
);
INSERT INTO "events" VALUES(1,1,1,'6f55471f-2fb2-5375-827c-0c5065430d26','2031-04-30 15:20:00.000000','Pia Lund','opened','{"kind": "opened", "archetype": "FB", "sheet": "nembrio-f9", "revision": "8b083f4ee211", "plate": {"volts": null, "hertz": null, "heater_w": null, "motor_w": null, "capacity_kg": null, "spin_rpm": null, "year": null, "serial": null}, "age_years": 5.0, "place": "Rowing club", "customer": "the boatman", "history": [], "power": "on", "taps": "open", "water": "in", "arrival": "", "odds": {}}');
INSERT INTO "events" VALUES(2,1,2,'6f55471f-2fb2-5375-827c-0c5065430d26-c','2031-04-30 15:20:00.000000','Pia Lund','complained','{"kind": "complained", "text": "Water stays in the drum.", "said": ["says_water_stays"]}');
INSERT INTO "events" VALUES(3,1,3,'e614c757-b53f-57d3-a6e8-6d85c881efdb','2031-04-30 15:28:00.000000','Pia Lund','panel_read','{"kind": "panel_read", "result": "codes", "shown": [[3, 2]], "codes": ["3-2"], "note": ""}');
INSERT INTO "events" VALUES(4,1,4,'11217a55-7a81-505d-b0ad-cfed3d18f21a','2031-04-30 15:32:00.000000','Pia Lund','state_changed','{"kind": "state_changed", "what": "power", "to": "off", "measured_v": null, "waited_min": null}');
INSERT INTO "events" VALUES(5,1,5,'bd188efc-2e96-536b-8b6e-3bc4f92873c7','2031-04-30 15:33:00.000000','Pia Lund','state_changed','{"kind": "state_changed", "what": "water", "to": "out", "measured_v": null, "waited_min": null}');
INSERT INTO "events" VALUES(6,1,6,'774f5053-4715-5913-969b-a2c60499df0e','2031-04-30 15:36:00.000000','Pia Lund','took_off','{"kind": "took_off", "operation": "filter_flap"}');
INSERT INTO "events" VALUES(7,1,7,'8bb50023-4657-5629-85c2-85033335f913','2031-04-30 15:38:00.000000','Pia Lund','took_off','{"kind": "took_off", "operation": "filter_cap"}');
INSERT INTO "events" VALUES(8,1,8,'19c1b79e-f9f2-5ac6-a6f0-a1569ad71077','2031-04-30 15:40:00.000000','Pia Lund','checked','{"kind": "checked", "check": "open_filter", "outcome": "blocked", "reading": null, "note": "blazer lint and a button"}');
INSERT INTO "events" VALUES(9,1,9,'5fea0f3c-a5f8-5e4c-be51-77084a0b7094','2031-04-30 15:44:00.000000','Pia Lund','decided','{"kind": "decided", "choice": "repair", "repair": "filter_blocked.clean", "lines": [{"text": "Visit and looking for the fault", "amount": 38.0}, {"text": "Labour, 6 min", "amount": 5.4}, {"text": "Tax 22%", "amount": 9.55}], "total": 52.95, "currency": "EUR", "reason": ""}');
INSERT INTO "events" VALUES(10,1,10,'0c5d0962-adb6-597a-bd7c-10f9315afd47','2031-04-30 15:50:00.000000','Pia Lund','repaired','{"kind": "repaired", "repair": "filter_blocked.clean", "part_number": "", "note": ""}');
INSERT INTO "events" VALUES(11,1,11,'ca117418-fc39-588a-84a3-826c07232967','2031-04-30 15:51:00.000000','Pia Lund','checked','{"kind": "checked", "check": "open_filter", "outcome": "clear", "reading": null, "note": ""}');
INSERT INTO "events" VALUES(12,1,12,'0fbaf610-419e-5fbc-89d0-abbfb31968f3','2031-04-30 15:52:00.000000','Pia Lund','put_back','{"kind": "put_back", "operation": "filter_cap"}');
INSERT INTO "events" VALUES(13,1,13,'03d07bb5-129b-555d-9769-1661e01cdfce','2031-04-30 15:53:00.000000','Pia Lund','put_back','{"kind": "put_back", "operation": "filter_flap"}');
INSERT INTO "events" VALUES(14,1,14,'a74a7dbf-71e0-50d2-9a35-0366d198f308','2031-04-30 15:54:00.000000','Pia Lund','state_changed','{"kind": "state_changed", "what": "power", "to": "on", "measured_v": null, "waited_min": null}');
INSERT INTO "events" VALUES(15,1,15,'73c0f047-12b6-5f4b-b4c2-bd230c393621','2031-04-30 15:56:00.000000','Pia Lund','codes_cleared','{"kind": "codes_cleared"}');
INSERT INTO "events" VALUES(16,1,16,'b6ec143a-ad4b-5b19-8431-b6f777a65d0e','2031-04-30 16:20:00.000000','Pia Lund','proved','{"kind": "proved", "proof": "leak_watch", "went": "well", "note": ""}');
INSERT INTO "events" VALUES(17,1,17,'9f1d44a3-3e01-5dc3-8e4a-afabb966c3bd','2031-04-30 16:26:00.000000','Pia Lund','proved','{"kind": "proved", "proof": "run", "went": "well", "note": ""}');
INSERT INTO "events" VALUES(18,1,18,'c0113df8-f42a-51db-8279-8fb949472fa6','2031-04-30 16:30:00.000000','Pia Lund','handed_over','{"kind": "handed_over", "advice": "Empty pockets; open and clean the pump filter every month."}');
INSERT INTO "events" VALUES(19,2,1,'ba00ba51-13c5-5170-8066-968a5f326f8f','2031-05-05 09:20:00.000000','Ilaria Venn','opened','{"kind": "opened", "archetype": "FB", "sheet": "nembrio-f7", "revision": "c5667fbb89f2", "plate": {"volts": null, "hertz": null, "heater_w": null, "motor_w": null, "capacity_kg": null, "spin_rpm": null, "year": null, "serial": null}, "age_years": 3.0, "place": "Pensione Alba", "customer": "the night porter", "history": ["new detergent since spring"], "power": "on", "taps": "open", "water": "out", "arrival": "", "odds": {"filter_blocked": 1.191}}');
INSERT INTO "events" VALUES(20,2,2,'ba00ba51-13c5-5170-8066-968a5f326f8f-c','2031-05-05 09:20:00.000000','Ilaria Venn','complained','{"kind": "complained", "text": "Suds stay in it after the rinse and the laundry comes out soaking.", "said": ["says_suds", "says_wet"]}');
INSERT INTO "events" VALUES(21,2,3,'35338626-9efd-5c13-81ae-81a792025463','2031-05-05 09:32:00.000000','Ilaria Venn','panel_read','{"kind": "panel_read", "result": "none", "shown": [], "codes": [], "note": ""}');
INSERT INTO "events" VALUES(22,2,4,'44b1f9e6-1520-5782-a6d9-d16e581222bb','2031-05-05 09:36:00.000000','Ilaria Venn','checked','{"kind": "checked", "check": "ask_dose", "outcome": "too much", "reading": null, "note": ""}');
INSERT INTO "events" VALUES(23,2,5,'041d5d9b-e7e4-5b6e-9458-969c59b1e936','2031-05-05 09:38:00.000000','Ilaria Venn','checked','{"kind": "checked", "check": "look_suds", "outcome": "high", "reading": null, "note": ""}');
INSERT INTO "events" VALUES(24,2,6,'ce433a08-3b4b-50ff-8503-c9005637bbc3','2031-05-05 09:46:00.000000','Ilaria Venn','checked','{"kind": "checked", "check": "watch_emptying", "outcome": "normal", "reading": null, "note": ""}');
INSERT INTO "events" VALUES(25,2,7,'d1cfd308-9c5f-5947-b8c5-4c46b564ee94','2031-05-05 09:54:00.000000','Ilaria Venn','checked','{"kind": "checked", "check": "watch_spin", "outcome": "full", "reading": null, "note": "after a rinse without detergent"}');
INSERT INTO "events" VALUES(26,2,8,'78607b72-c4bd-5ed4-bc90-9bd6d050e395','2031-05-05 09:58:00.000000','Ilaria Venn','decided','{"kind": "decided", "choice": "nothing_wrong", "repair": null, "lines": [], "total": 0.0, "currency": "EUR", "reason": "Three scoops where one is enough."}');
INSERT INTO "events" VALUES(27,2,9,'3bead53c-12b7-5e2d-8976-607023ff6fee','2031-05-05 10:00:00.000000','Ilaria Venn','handed_over','{"kind": "handed_over", "advice": "One scoop by the line on the pack; a hot empty run every month."}');
INSERT INTO "events" VALUES(28,3,1,'731f500a-e8f2-5893-8b56-305dd2301f36','2031-05-06 16:30:00.000000','Pia Lund','opened','{"kind": "opened", "archetype": "FB", "sheet": "nembrio-f9", "revision": "8b083f4ee211", "plate": {"volts": null, "hertz": null, "heater_w": null, "motor_w": null, "capacity_kg": null, "spin_rpm": null, "year": null, "serial": null}, "age_years": 4.0, "place": "Casa Ginestra", "customer": "the tenant", "history": [], "power": "on", "taps": "open", "water": "in", "arrival": "", "odds": {"filter_blocked": 1.182}}');
INSERT INTO "events" VALUES(29,3,2,'731f500a-e8f2-5893-8b56-305dd2301f36-c','2031-05-06 16:30:00.000000','Pia Lund','complained','{"kind": "complained", "text": "It never stops filling.", "said": ["says_overfill"]}');
INSERT INTO "events" VALUES(30,3,3,'c749ebab-955c-5e5f-bc29-d131127edfc7','2031-05-06 16:36:00.000000','Pia Lund','panel_read','{"kind": "panel_read", "result": "none", "shown": [], "codes": [], "note": ""}');
INSERT INTO "events" VALUES(31,3,4,'7df09fa3-52a7-5c8a-8a9d-92f4cc2103b7','2031-05-06 16:39:00.000000','Pia Lund','state_changed','{"kind": "state_changed", "what": "power", "to": "off", "measured_v": null, "waited_min": null}');
INSERT INTO "events" VALUES(32,3,5,'1af6a2b2-dbb0-5b5d-8b25-c0f0030c3510','2031-05-06 16:40:00.000000','Pia Lund','state_changed','{"kind": "state_changed", "what": "water", "to": "out", "measured_v": null, "waited_min": null}');
INSERT INTO "events" VALUES(33,3,6,'fa64b73f-9108-5bdd-8777-5d85a5cda264','2031-05-06 16:44:00.000000','Pia Lund','took_off','{"kind": "took_off", "operation": "top"}');
INSERT INTO "events" VALUES(34,3,7,'e6551d68-0aaa-573b-b319-58c8239e60ec','2031-05-06 16:48:00.000000','Pia Lund','decided','{"kind": "decided", "choice": "repair", "repair": "level_tube.part", "lines": [], "total": 74.4, "currency": "EUR", "reason": "A new tube and every plug seated again; it fills and stops."}');
INSERT INTO "events" VALUES(35,3,8,'4046ac9a-8644-5a79-acff-726403b1a01d','2031-05-06 16:50:00.000000','Pia Lund','repaired','{"kind": "repaired", "repair": "level_tube.part", "part_number": "", "note": "the old one looked whole"}');
INSERT INTO "events" VALUES(36,3,9,'19b071eb-58af-5197-b242-1ee5cf2db0f3','2031-05-06 16:51:00.000000','Pia Lund','recheck','{"kind": "recheck", "repair": "level_tube.part", "why": "unexplained", "on": "2031-05-26", "note": "fill twice and watch the level"}');
INSERT INTO "events" VALUES(37,3,10,'f5a7ebd9-e2d4-5c65-b200-0f18c393d477','2031-05-06 16:52:00.000000','Pia Lund','put_back','{"kind": "put_back", "operation": "top"}');
INSERT INTO "events" VALUES(38,3,11,'f97fad70-2268-52bb-b9dd-adcbcc45ef25','2031-05-06 16:53:00.000000','Pia Lund','state_changed','{"kind": "state_changed", "what": "power", "to": "on", "measured_v": null, "waited_min": null}');
INSERT INTO "events" VALUES(39,3,12,'64dc0410-3c72-5c9b-91c5-3033d19ec3bd','2031-05-06 17:20:00.000000','Pia Lund','proved','{"kind": "proved", "proof": "run", "went": "well", "note": ""}');
INSERT INTO "events" VALUES(40,3,13,'eeb5f826-b41a-5f79-bd29-c8eaf16c3f00','2031-05-06 17:22:00.000000','Pia Lund','proved','{"kind": "proved", "proof": "calibration", "went": "well", "note": "none on this model"}');
INSERT INTO "events" VALUES(41,3,14,'131ed48c-2986-57b8-8c45-d658dbc45375','2031-05-06 17:24:00.000000','Pia Lund','handed_over','{"kind": "handed_over", "advice": "Call at once if it overfills again; shut the tap."}');
INSERT INTO "events" VALUES(42,4,1,'9e16fc3b-dfea-5448-9209-f4314fb3a175','2031-05-06 10:10:00.000000','Tomo Brasch','opened','{"kind": "opened", "archetype": "TG", "sheet": "pellandra-400", "revision": "7e7e224ef8d3", "plate": {"volts": null, "hertz": null, "heater_w": null, "motor_w": null, "capacity_kg": null, "spin_rpm": null, "year": null, "serial": null}, "age_years": 16.0, "place": "Signora Ada''s wash house", "customer": "Ada", "history": ["the seal was changed once", "years ago"], "power": "on", "taps": "open", "water": "out", "arrival": "", "odds": {}}');
INSERT INTO "events" VALUES(43,4,2,'9e16fc3b-dfea-5448-9209-f4314fb3a175-c','2031-05-06 10:10:00.000000','Tomo Brasch','complained','{"kind": "complained", "text": "It roars in the spin and there is a puddle, water under the machine.", "said": ["says_roars", "says_floor_wet"]}');
INSERT INTO "events" VALUES(44,4,3,'7606ce74-53c3-582b-b9c4-dcff499d5783','2031-05-06 10:20:00.000000','Tomo Brasch','state_changed','{"kind": "state_changed", "what": "power", "to": "off", "measured_v": null, "waited_min": null}');
INSERT INTO "events" VALUES(45,4,4,'5cc5ba69-b8a3-5d4b-bf6c-d4f60fde84bd','2031-05-06 10:22:00.000000','Tomo Brasch','checked','{"kind": "checked", "check": "turn_on_post", "outcome": "grinds", "reading": null, "note": ""}');
INSERT INTO "events" VALUES(46,4,5,'c9204ef3-f5be-5389-bf35-6a8abda38c2b','2031-05-06 10:24:00.000000','Tomo Brasch','checked','{"kind": "checked", "check": "rock_basket", "outcome": "play", "reading": null, "note": ""}');
INSERT INTO "events" VALUES(47,4,6,'e5bc01cb-619d-51bd-85a2-52bdd26e4b7b','2031-05-06 10:32:00.000000','Tomo Brasch','state_changed','{"kind": "state_changed", "what": "posture", "to": "tipped", "measured_v": null, "waited_min": null}');
INSERT INTO "events" VALUES(48,4,7,'fcb298be-4bff-594f-a9ee-492755ac9469','2031-05-06 10:34:00.000000','Tomo Brasch','checked','{"kind": "checked", "check": "look_post", "outcome": "wet", "reading": null, "note": ""}');
INSERT INTO "events" VALUES(49,4,8,'7144616a-0ec3-584d-950b-1fa82ae3310d','2031-05-06 10:44:00.000000','Tomo Brasch','decided','{"kind": "decided", "choice": "repair", "repair": "tub_bearing.part", "lines": [{"text": "Visit and looking for the fault", "amount": 38.0}, {"text": "Labour, 81 min", "amount": 73.31}, {"text": "Tub bearing set with seal and stem", "amount": 50.6}, {"text": "Tax 22%", "amount": 35.62}], "total": 197.53, "currency": "EUR", "reason": "Heavy and well built; worth it."}');
INSERT INTO "events" VALUES(50,4,9,'4a60e261-a12f-5935-98eb-b497c4f3cf33','2031-05-06 10:46:00.000000','Tomo Brasch','waiting','{"kind": "waiting", "on": "clock", "until": null, "note": "The stem soaks until tomorrow"}');
INSERT INTO "events" VALUES(51,5,1,'fb6c9d9e-0d14-5773-9c2c-d235e0912528','2031-05-08 08:40:00.000000','Tomo Brasch','opened','{"kind": "opened", "archetype": "FB", "sheet": "nembrio-f9", "revision": "8b083f4ee211", "plate": {"volts": null, "hertz": null, "heater_w": null, "motor_w": null, "capacity_kg": null, "spin_rpm": null, "year": null, "serial": null}, "age_years": 5.0, "place": "Rowing club", "customer": "the boatman", "history": ["called back: job 0387, filter cleaned"], "power": "on", "taps": "open", "water": "in", "arrival": "", "odds": {"filter_blocked": 1.173}}');
INSERT INTO "events" VALUES(52,5,2,'fb6c9d9e-0d14-5773-9c2c-d235e0912528-c','2031-05-08 08:40:00.000000','Tomo Brasch','complained','{"kind": "complained", "text": "The water stays in the drum again, and it hums.", "said": ["says_water_stays", "says_hums"]}');
INSERT INTO "events" VALUES(53,5,3,'05018c27-1582-56d1-9247-363b330f096c','2031-05-08 08:46:00.000000','Tomo Brasch','panel_read','{"kind": "panel_read", "result": "codes", "shown": [[3, 2]], "codes": ["3-2"], "note": "came back after the clear"}');
INSERT INTO "events" VALUES(54,5,4,'b903dfcc-c050-5d59-b6b3-c38a19a45b5c','2031-05-08 08:50:00.000000','Tomo Brasch','state_changed','{"kind": "state_changed", "what": "power", "to": "off", "measured_v": null, "waited_min": null}');
INSERT INTO "events" VALUES(55,5,5,'7e362956-cee2-579e-ad68-e305b031acd0','2031-05-08 08:52:00.000000','Tomo Brasch','state_changed','{"kind": "state_changed", "what": "water", "to": "out", "measured_v": null, "waited_min": null}');
INSERT INTO "events" VALUES(56,5,6,'e14536f1-8098-58f8-b32f-623f8bcd3a44','2031-05-08 08:55:00.000000','Tomo Brasch','took_off','{"kind": "took_off", "operation": "filter_flap"}');
INSERT INTO "events" VALUES(57,5,7,'ecd82006-22d6-52c0-a999-73f93e306a79','2031-05-08 08:56:00.000000','Tomo Brasch','took_off','{"kind": "took_off", "operation": "filter_cap"}');
INSERT INTO "events" VALUES(58,5,8,'9be62dff-f9dc-56b0-84af-c586c551d0aa','2031-05-08 08:57:00.000000','Tomo Brasch','checked','{"kind": "checked", "check": "open_filter", "outcome": "clear", "reading": null, "note": ""}');
INSERT INTO "events" VALUES(59,5,9,'2bc355ac-7792-5b34-a7bf-d2b1352722e9','2031-05-08 09:00:00.000000','Tomo Brasch','checked','{"kind": "checked", "check": "turn_rotor", "outcome": "free", "reading": null, "note": "no steps at all"}');
INSERT INTO "events" VALUES(60,5,10,'5a0954ef-3657-562b-934b-7a9e50c030a1','2031-05-08 09:04:00.000000','Tomo Brasch','checked','{"kind": "checked", "check": "measure_pump_coil", "outcome": "in band", "reading": {"typed": "168", "amount": 168.0, "unit": "ohm", "verdict": "in", "borderline": false, "low": 150.0, "high": 190.0, "source": "Nembrio F9 sheet, values page", "grade": "sheet", "weights": {"in band": 1.0}}, "note": ""}');
INSERT INTO "events" VALUES(61,5,11,'c6337348-8616-56c0-a85e-ea76fa9b6dee','2031-05-08 09:06:00.000000','Tomo Brasch','decided','{"kind": "decided", "choice": "repair", "repair": "drain_pump.part", "lines": [{"text": "Visit and looking for the fault", "amount": 38.0}, {"text": "Labour, 18 min", "amount": 16.2}, {"text": "Drain pump", "amount": 55.2}, {"text": "Tax 22%", "amount": 24.07}], "total": 133.47, "currency": "EUR", "reason": ""}');
INSERT INTO "events" VALUES(62,5,12,'869ef5dc-bae9-5f2b-8f17-af885c98c46d','2031-05-08 09:24:00.000000','Tomo Brasch','repaired','{"kind": "repaired", "repair": "drain_pump.part", "part_number": "NB-2205", "note": "from the shelf, rotor steps"}');
INSERT INTO "events" VALUES(63,5,13,'dda1e6a2-520c-583a-b6be-4eab3046fe81','2031-05-08 09:26:00.000000','Tomo Brasch','checked','{"kind": "checked", "check": "turn_rotor", "outcome": "steps", "reading": null, "note": ""}');
INSERT INTO "events" VALUES(64,5,14,'b3924804-490f-56d5-96bc-7e45f2b76ac1','2031-05-08 09:27:00.000000','Tomo Brasch','put_back','{"kind": "put_back", "operation": "filter_cap"}');
INSERT INTO "events" VALUES(65,5,15,'5cd59bf7-c57f-5802-b54c-ee37c9819445','2031-05-08 09:28:00.000000','Tomo Brasch','put_back','{"kind": "put_back", "operation": "filter_flap"}');
INSERT INTO "events" VALUES(66,5,16,'a7d0a1d2-6a43-5b9a-8bf6-ffd4707fb7a7','2031-05-08 09:29:00.000000','Tomo Brasch','state_changed','{"kind": "state_changed", "what": "power", "to": "on", "measured_v": null, "waited_min": null}');
INSERT INTO "events" VALUES(67,5,17,'ddc7305c-f4c1-5531-8b03-fd3ab8a5e4af','2031-05-08 09:30:00.000000','Tomo Brasch','codes_cleared','{"kind": "codes_cleared"}');
INSERT INTO "events" VALUES(68,5,18,'2e0b33e1-ee2e-53a0-8722-6bd07196713e','2031-05-08 09:42:00.000000','Tomo Brasch','proved','{"kind": "proved", "proof": "leak_watch", "went": "well", "note": ""}');
INSERT INTO "events" VALUES(69,5,19,'05c0ccc1-0175-5091-a78f-390fa2b5f62b','2031-05-08 09:55:00.000000','Tomo Brasch','proved','{"kind": "proved", "proof": "run", "went": "well", "note": ""}');
INSERT INTO "events" VALUES(70,5,20,'95ab037b-4b40-5d01-807c-14d89b337215','2031-05-08 09:58:00.000000','Tomo Brasch','handed_over','{"kind": "handed_over", "advice": "Empty pockets; the pump itself was worn."}');
INSERT INTO "events" VALUES(71,6,1,'1ed6ea01-8ad0-5c01-982c-0c7a2434a4f6','2031-05-09 14:05:00.000000','Tomo Brasch','opened','{"kind": "opened", "archetype": "FB", "sheet": "nembrio-f7", "revision": "c5667fbb89f2", "plate": {"volts": null, "hertz": null, "heater_w": null, "motor_w": null, "capacity_kg": null, "spin_rpm": null, "year": null, "serial": null}, "age_years": 8.0, "place": "Villa Corallo", "customer": "the housekeeper", "history": ["hard water from the cistern"], "power": "on", "taps": "open", "water": "out", "arrival": "", "odds": {"filter_blocked": 1.165, "rotor_slips": 1.177}}');
INSERT INTO "events" VALUES(72,6,2,'1ed6ea01-8ad0-5c01-982c-0c7a2434a4f6-c','2031-05-09 14:05:00.000000','Tomo Brasch','complained','{"kind": "complained", "text": "The programme takes hours, and the wash is hardly warm.", "said": ["says_long_wash"]}');
INSERT INTO "events" VALUES(73,6,3,'a685ae8c-9895-59f5-b848-fbb857a4cdff','2031-05-09 14:14:00.000000','Tomo Brasch','panel_read','{"kind": "panel_read", "result": "codes", "shown": [[5, 1]], "codes": ["5-1"], "note": ""}');
INSERT INTO "events" VALUES(74,6,4,'26c78ecc-518a-59e7-8771-d3c62c5ae029','2031-05-09 14:25:00.000000','Tomo Brasch','state_changed','{"kind": "state_changed", "what": "power", "to": "off", "measured_v": null, "waited_min": null}');
INSERT INTO "events" VALUES(75,6,5,'b3c2b044-2576-511a-a70e-e29654253c79','2031-05-09 14:29:00.000000','Tomo Brasch','took_off','{"kind": "took_off", "operation": "rear_panel"}');
INSERT INTO "events" VALUES(76,6,6,'c02ff384-c570-59b8-a9d9-3577ce2d4aa0','2031-05-09 14:33:00.000000','Tomo Brasch','checked','{"kind": "checked", "check": "measure_element", "outcome": "in band", "reading": {"typed": "30.4", "amount": 30.4, "unit": "ohm", "verdict": "in", "borderline": false, "low": 28.79, "high": 33.59, "source": "rating plate: 1750 W at 230 V, R = U\u00b2/P, +5 % and -10 % of power (IEC 60335-1)", "grade": "physics", "weights": {"in band": 1.0}}, "note": ""}');
INSERT INTO "events" VALUES(77,6,7,'9707c637-e2f1-5006-8b4e-e3c7718de54f','2031-05-09 14:36:00.000000','Tomo Brasch','checked','{"kind": "checked", "check": "measure_thermistor", "outcome": "on its curve", "reading": {"typed": "9.8 k", "amount": 9800.0, "unit": "ohm", "verdict": "in", "borderline": false, "low": 5600.0, "high": 15800.0, "source": "Nembrio F7 sheet, page 5, 10 to 30 \u00b0C", "grade": "sheet", "weights": {"on its curve": 1.0}}, "note": ""}');
INSERT INTO "events" VALUES(78,6,8,'e686ddc6-67a8-5618-bd40-a4bcc5b15b9d','2031-05-09 14:38:00.000000','Tomo Brasch','checked','{"kind": "checked", "check": "look_spades", "outcome": "bright", "reading": null, "note": ""}');
INSERT INTO "events" VALUES(79,6,9,'3a6d5462-6b67-532f-921a-9e795e9fe078','2031-05-09 14:43:00.000000','Tomo Brasch','checked','{"kind": "checked", "check": "look_element_scale", "outcome": "thick", "reading": null, "note": ""}');
INSERT INTO "events" VALUES(80,6,10,'d941c8db-4843-593f-b637-6215ea73a31b','2031-05-09 14:49:00.000000','Tomo Brasch','decided','{"kind": "decided", "choice": "repair", "repair": "element_scaled.clean", "lines": [{"text": "Visit and looking for the fault", "amount": 38.0}, {"text": "Labour, 25 min", "amount": 22.5}, {"text": "Tax 22%", "amount": 13.31}], "total": 73.81, "currency": "EUR", "reason": "Descale first; a new element if it has not helped."}');
INSERT INTO "events" VALUES(81,6,11,'a2721835-9e50-5cdc-beec-6e5e434039b6','2031-05-09 14:50:00.000000','Tomo Brasch','waiting','{"kind": "waiting", "on": "customer", "until": null, "note": "Quote sent"}');
INSERT INTO "events" VALUES(82,7,1,'2b635f1f-7049-5deb-be02-7d41995fdaf9','2031-05-09 09:30:00.000000','Pia Lund','opened','{"kind": "opened", "archetype": "WD", "sheet": "virgola-asciutta-7", "revision": "0b49e931dc2d", "plate": {"volts": null, "hertz": null, "heater_w": null, "motor_w": null, "capacity_kg": null, "spin_rpm": null, "year": null, "serial": null}, "age_years": 5.0, "place": "Villa Corallo", "customer": "the gardener", "history": [], "power": "on", "taps": "open", "water": "out", "arrival": "", "odds": {}}');
INSERT INTO "events" VALUES(83,7,2,'2b635f1f-7049-5deb-be02-7d41995fdaf9-c','2031-05-09 09:30:00.000000','Pia Lund','complained','{"kind": "complained", "text": "The fan rattles while drying.", "said": ["says_rattles", "says_fan_rattles"]}');
INSERT INTO "events" VALUES(84,7,3,'5ff299e8-8f61-5c03-b7fd-1d96ad238edc','2031-05-09 09:40:00.000000','Pia Lund','panel_read','{"kind": "panel_read", "result": "none", "shown": [], "codes": [], "note": ""}');
INSERT INTO "events" VALUES(85,7,4,'eff8e511-46f9-591c-8b7a-64b29a548b40','2031-05-09 09:44:00.000000','Pia Lund','checked','{"kind": "checked", "check": "hear_fan", "outcome": "rattles", "reading": null, "note": ""}');
INSERT INTO "events" VALUES(86,7,5,'38d5c822-4dfc-5c24-930e-060183144eeb','2031-05-09 09:48:00.000000','Pia Lund','state_changed','{"kind": "state_changed", "what": "power", "to": "off", "measured_v": null, "waited_min": null}');
INSERT INTO "events" VALUES(87,7,6,'4e5c13e8-25e4-5975-921b-e863844eff46','2031-05-09 09:52:00.000000','Pia Lund','took_off','{"kind": "took_off", "operation": "top"}');
INSERT INTO "events" VALUES(88,7,7,'3da6ab83-cd69-5eff-ae87-122c2ca961b5','2031-05-09 09:54:00.000000','Pia Lund','checked','{"kind": "checked", "check": "turn_fan", "outcome": "loose or rubs", "reading": null, "note": ""}');
INSERT INTO "events" VALUES(89,7,8,'3ed133cb-8ca9-5351-abf6-370b5ad4f9aa','2031-05-09 10:00:00.000000','Pia Lund','decided','{"kind": "decided", "choice": "repair", "repair": "fan.part", "lines": [{"text": "Visit and looking for the fault", "amount": 38.0}, {"text": "Labour, 25 min", "amount": 22.5}, {"text": "Drying fan", "amount": 70.15}, {"text": "Tax 22%", "amount": 28.74}], "total": 159.39, "currency": "EUR", "reason": ""}');
INSERT INTO "events" VALUES(90,7,9,'ca2a89e6-9297-5174-925a-132fdaecde00','2031-05-09 10:02:00.000000','Pia Lund','waiting','{"kind": "waiting", "on": "part", "until": "2031-05-16", "note": "Drying fan"}');
INSERT INTO "events" VALUES(91,8,1,'cb9b1fcf-7854-581d-96bf-417d369d9363','2031-05-10 10:40:00.000000','Ilaria Venn','opened','{"kind": "opened", "archetype": "FB", "sheet": "nembrio-f7", "revision": "c5667fbb89f2", "plate": {"volts": null, "hertz": null, "heater_w": null, "motor_w": null, "capacity_kg": null, "spin_rpm": null, "year": null, "serial": null}, "age_years": 9.0, "place": "Guesthouse Miramar", "customer": "the owner", "history": ["a wet patch behind it last winter"], "power": "on", "taps": "open", "water": "out", "arrival": "", "odds": {"filter_blocked": 1.165, "rotor_slips": 1.177}}');
INSERT INTO "events" VALUES(92,8,2,'cb9b1fcf-7854-581d-96bf-417d369d9363-c','2031-05-10 10:40:00.000000','Ilaria Venn','complained','{"kind": "complained", "text": "It roars like a plane in the spin.", "said": ["says_roars"]}');
INSERT INTO "events" VALUES(93,8,3,'e53935c0-23e4-5599-82ba-3720d3c08e39','2031-05-10 10:50:00.000000','Ilaria Venn','panel_read','{"kind": "panel_read", "result": "none", "shown": [], "codes": [], "note": ""}');
INSERT INTO "events" VALUES(94,8,4,'37af3b70-14aa-5a09-a062-ee3ab580236b','2031-05-10 10:54:00.000000','Ilaria Venn','state_changed','{"kind": "state_changed", "what": "power", "to": "off", "measured_v": null, "waited_min": null}');
INSERT INTO "events" VALUES(95,8,5,'98d9c416-b9d2-5662-b63c-e981efdc4134','2031-05-10 10:56:00.000000','Ilaria Venn','checked','{"kind": "checked", "check": "turn_drum", "outcome": "rumbles", "reading": null, "note": ""}');
INSERT INTO "events" VALUES(96,8,6,'652d406a-7705-52b6-a763-45e2d05c817e','2031-05-10 10:57:00.000000','Ilaria Venn','checked','{"kind": "checked", "check": "lift_edge", "outcome": "play", "reading": null, "note": ""}');
INSERT INTO "events" VALUES(97,8,7,'f0bdc752-76ec-5ca3-a19f-ef96d28c1b3c','2031-05-10 10:58:00.000000','Ilaria Venn','checked','{"kind": "checked", "check": "watch_edge", "outcome": "true", "reading": null, "note": ""}');
INSERT INTO "events" VALUES(98,8,8,'8e82ec39-9de5-55ca-a7a5-e76c3b8383bf','2031-05-10 11:04:00.000000','Ilaria Venn','took_off','{"kind": "took_off", "operation": "rear_panel"}');
INSERT INTO "events" VALUES(99,8,9,'76466811-2ca3-5382-9523-80200001c293','2031-05-10 11:07:00.000000','Ilaria Venn','checked','{"kind": "checked", "check": "look_relief", "outcome": "streaks", "reading": null, "note": ""}');
INSERT INTO "events" VALUES(100,8,10,'d6f8ed28-1b23-5417-aca9-b18d0dc0b892','2031-05-10 11:20:00.000000','Ilaria Venn','decided','{"kind": "decided", "choice": "repair", "repair": "bearings.part", "lines": [{"text": "Visit and looking for the fault", "amount": 38.0}, {"text": "Labour, 205 min", "amount": 184.32}, {"text": "Bearing set with seal", "amount": 43.7}, {"text": "Tax 22%", "amount": 58.52}], "total": 324.54, "currency": "EUR", "reason": "Well built and otherwise sound."}');
INSERT INTO "events" VALUES(101,8,11,'7981a67b-faaf-5d4e-9d18-dfd131908c89','2031-05-10 11:22:00.000000','Ilaria Venn','waiting','{"kind": "waiting", "on": "part", "until": "2031-05-16", "note": "Bearing set with seal"}');
INSERT INTO "events" VALUES(102,9,1,'f6c0b743-d790-505a-9fd1-5cc1f28ea0dc','2031-05-13 15:30:00.000000','Tomo Brasch','opened','{"kind": "opened", "archetype": "FB", "sheet": "nembrio-f7", "revision": "c5667fbb89f2", "plate": {"volts": null, "hertz": null, "heater_w": null, "motor_w": null, "capacity_kg": null, "spin_rpm": null, "year": null, "serial": null}, "age_years": 6.0, "place": "Casa Ginestra", "customer": "the tenant", "history": [], "power": "on", "taps": "open", "water": "out", "arrival": "", "odds": {"filter_blocked": 1.165, "rotor_slips": 1.177}}');
INSERT INTO "events" VALUES(103,9,2,'f6c0b743-d790-505a-9fd1-5cc1f28ea0dc-c','2031-05-13 15:30:00.000000','Tomo Brasch','complained','{"kind": "complained", "text": "Water on the floor, it comes from under the door.", "said": ["says_door_drip", "says_floor_wet"]}');
INSERT INTO "events" VALUES(104,9,3,'7872552d-554a-58b8-ace0-d180e1c1fa93','2031-05-13 15:38:00.000000','Tomo Brasch','panel_read','{"kind": "panel_read", "result": "none", "shown": [], "codes": [], "note": ""}');
INSERT INTO "events" VALUES(105,9,4,'e0cdc6bf-505a-5f6f-b946-5077a516a8ca','2031-05-13 15:42:00.000000','Tomo Brasch','state_changed','{"kind": "state_changed", "what": "power", "to": "off", "measured_v": null, "waited_min": null}');
INSERT INTO "events" VALUES(106,9,5,'5e61d002-27a9-5951-8bbc-973a2f1922f1','2031-05-13 15:45:00.000000','Tomo Brasch','checked','{"kind": "checked", "check": "look_bellows", "outcome": "torn", "reading": null, "note": "a hair grip, lower left"}');
INSERT INTO "events" VALUES(107,9,6,'4f012674-29f7-59bc-a335-1b9c87c22355','2031-05-13 15:50:00.000000','Tomo Brasch','decided','{"kind": "decided", "choice": "repair", "repair": "bellows.part", "lines": [{"text": "Visit and looking for the fault", "amount": 38.0}, {"text": "Labour, 35 min", "amount": 31.5}, {"text": "Bellows", "amount": 52.9}, {"text": "Tax 22%", "amount": 26.93}], "total": 149.33, "currency": "EUR", "reason": ""}');
INSERT INTO "events" VALUES(108,9,7,'e91ce2de-9984-5b35-afbb-90fd3a0f91d1','2031-05-13 16:40:00.000000','Tomo Brasch','repaired','{"kind": "repaired", "repair": "bellows.part", "part_number": "NB-1180", "note": "spring of the band at eleven o''clock"}');
INSERT INTO "events" VALUES(109,9,8,'8af258a1-96fe-5843-b095-95f02f48c2d5','2031-05-13 16:42:00.000000','Tomo Brasch','cause_closed','{"kind": "cause_closed", "fault": "bellows_torn", "answer": "A hair grip in the fold; no other wire found in the drum."}');
INSERT INTO "events" VALUES(110,10,1,'4b86b754-79eb-5eba-b3a0-502ed4507137','2031-05-13 16:20:00.000000','Tomo Brasch','opened','{"kind": "opened", "archetype": "TS", "sheet": "torvane-alta-10", "revision": "6211b5347408", "plate": {"volts": null, "hertz": null, "heater_w": null, "motor_w": null, "capacity_kg": null, "spin_rpm": null, "year": null, "serial": null}, "age_years": 7.0, "place": "Campsite laundry", "customer": "the warden", "history": ["overfull every Saturday"], "power": "on", "taps": "open", "water": "out", "arrival": "", "odds": {}}');
INSERT INTO "events" VALUES(111,10,2,'4b86b754-79eb-5eba-b3a0-502ed4507137-c','2031-05-13 16:20:00.000000','Tomo Brasch','complained','{"kind": "complained", "text": "It washes and never spins, the laundry comes out soaking.", "said": ["says_no_spin", "says_wet"]}');
INSERT INTO "events" VALUES(112,10,3,'67e060b2-dac1-55b6-841a-4f570273ace9','2031-05-13 16:29:00.000000','Tomo Brasch','checked','{"kind": "checked", "check": "watch_turning", "outcome": "normal", "reading": null, "note": ""}');
INSERT INTO "events" VALUES(113,10,4,'351e0164-1ddc-5a3a-a48d-65268f7903b9','2031-05-13 16:33:00.000000','Tomo Brasch','checked','{"kind": "checked", "check": "watch_emptying", "outcome": "normal", "reading": null, "note": ""}');
INSERT INTO "events" VALUES(114,10,5,'94a1e27a-f2ad-5d09-8112-36cab050c35b','2031-05-13 16:38:00.000000','Tomo Brasch','checked','{"kind": "checked", "check": "watch_shifter", "outcome": "silent", "reading": null, "note": ""}');
INSERT INTO "events" VALUES(115,11,1,'f61b032a-5e7f-5141-a92c-b2edb045955a','2031-05-13 11:15:00.000000','Ilaria Venn','opened','{"kind": "opened", "archetype": "FD", "sheet": "calvessa-dritta-8", "revision": "612dd87df962", "plate": {"volts": null, "hertz": null, "heater_w": null, "motor_w": null, "capacity_kg": null, "spin_rpm": null, "year": null, "serial": null}, "age_years": 4.0, "place": "Guesthouse Miramar", "customer": "the owner", "history": ["a new motor harness in March", "white streaks under the valve"], "power": "on", "taps": "open", "water": "out", "arrival": "", "odds": {}}');
INSERT INTO "events" VALUES(116,11,2,'f61b032a-5e7f-5141-a92c-b2edb045955a-c','2031-05-13 11:15:00.000000','Ilaria Venn','complained','{"kind": "complained", "text": "It jerks, then stops. The drum does not turn.", "said": ["says_no_turn", "says_jerks"]}');
INSERT INTO "events" VALUES(117,11,3,'67b1d659-1097-5daa-adbd-713c84216805','2031-05-13 11:27:00.000000','Ilaria Venn','panel_read','{"kind": "panel_read", "result": "codes", "shown": [], "codes": ["cE5"], "note": "it came back after the new harness"}');
INSERT INTO "events" VALUES(118,11,4,'c2a6a198-9035-56d8-abc4-bb13ed652295','2031-05-13 11:35:00.000000','Ilaria Venn','state_changed','{"kind": "state_changed", "what": "power", "to": "off", "measured_v": null, "waited_min": null}');
INSERT INTO "events" VALUES(119,11,5,'218487ca-df03-5a7b-b802-841d4ad75bc3','2031-05-13 11:41:00.000000','Ilaria Venn','took_off','{"kind": "took_off", "operation": "rear_panel"}');
INSERT INTO "events" VALUES(120,11,6,'a5e8ba0e-6815-5231-b546-93fc1ac44b72','2031-05-13 11:43:00.000000','Ilaria Venn','marked','{"kind": "marked", "what": "water", "at": "inlet_valve", "phase": "fill", "age": "old", "x": null, "y": null, "note": "white streaks down to the drive"}');
INSERT INTO "events" VALUES(121,12,1,'0aa69868-53e3-593d-9a7b-d6bc867c3a56','2031-05-14 08:10:00.000000','Pia Lund','opened','{"kind": "opened", "archetype": "FB", "sheet": null, "revision": "248351e5d1f8", "plate": {"volts": 230.0, "hertz": 50.0, "heater_w": 1900.0, "motor_w": null, "capacity_kg": null, "spin_rpm": 1000.0, "year": null, "serial": null}, "age_years": 11.0, "place": "Rowing club", "customer": "the boatman", "history": ["badge worn off"], "power": "on", "taps": "open", "water": "out", "arrival": "", "odds": {"filter_blocked": 1.165, "rotor_slips": 1.184}}');
INSERT INTO "events" VALUES(122,12,2,'0aa69868-53e3-593d-9a7b-d6bc867c3a56-c','2031-05-14 08:10:00.000000','Pia Lund','complained','{"kind": "complained", "text": "Lamps are on but it will not start, it clicks again and again.", "said": ["says_no_start", "says_clicks"]}');
INSERT INTO "events" VALUES(123,12,3,'cde6e746-2855-54a4-82dc-7c5c3f835f0d','2031-05-14 08:24:00.000000','Pia Lund','checked','{"kind": "checked", "check": "look_key_lock", "outcome": "off", "reading": null, "note": ""}');
INSERT INTO "events" VALUES(124,12,4,'acb0a845-9194-57c0-b05b-7cc1e58bc07e','2031-05-14 08:26:00.000000','Pia Lund','checked','{"kind": "checked", "check": "hear_lock", "outcome": "clicks again and again", "reading": null, "note": ""}');
INSERT INTO "events" VALUES(125,13,1,'827fb394-0f4d-5d9f-ae51-821d67d4ba80','2031-05-14 08:40:00.000000','Tomo Brasch','opened','{"kind": "opened", "archetype": "FI", "sheet": "quernia-compatta-5", "revision": "9546c9861eaa", "plate": {"volts": null, "hertz": null, "heater_w": null, "motor_w": null, "capacity_kg": null, "spin_rpm": null, "year": null, "serial": null}, "age_years": 9.0, "place": "Rowing club", "customer": "the cook", "history": [], "power": "on", "taps": "open", "water": "out", "arrival": "", "odds": {}}');
INSERT INTO "events" VALUES(126,13,2,'827fb394-0f4d-5d9f-ae51-821d67d4ba80-c','2031-05-14 08:40:00.000000','Tomo Brasch','complained','{"kind": "complained", "text": "The spin takes long to build up and the laundry stays too wet.", "said": ["says_wet"]}');
INSERT INTO "events" VALUES(127,13,3,'8e877e0d-6cbf-5876-be80-73facdab5e64','2031-05-14 08:52:00.000000','Tomo Brasch','checked','{"kind": "checked", "check": "watch_build_up", "outcome": "slow", "reading": null, "note": ""}');
INSERT INTO "events" VALUES(128,14,1,'352d23d5-7075-5796-8052-ad1902345354','2031-05-14 08:52:00.000000','Ilaria Venn','opened','{"kind": "opened", "archetype": "FB", "sheet": "nembrio-f7", "revision": "c5667fbb89f2", "plate": {"volts": null, "hertz": null, "heater_w": null, "motor_w": null, "capacity_kg": null, "spin_rpm": null, "year": null, "serial": null}, "age_years": 7.0, "place": "Houseboat Ondina", "customer": "the skipper", "history": ["moved to another mooring in May"], "power": "off", "taps": "open", "water": "in", "arrival": "unplugged already, water up to the glass, a scratch on the lid", "odds": {"filter_blocked": 1.165, "rotor_slips": 1.177}}');
INSERT INTO "events" VALUES(129,14,2,'352d23d5-7075-5796-8052-ad1902345354-c','2031-05-14 08:52:00.000000','Ilaria Venn','complained','{"kind": "complained", "text": "The water stays in the drum and it hums.", "said": ["says_water_stays", "says_hums"]}');
INSERT INTO "events" VALUES(130,14,3,'fe6a9bf6-ee26-5ac8-b8e5-c05ada65042c','2031-05-14 08:58:00.000000','Ilaria Venn','state_changed','{"kind": "state_changed", "what": "taps", "to": "shut", "measured_v": null, "waited_min": null}');
INSERT INTO "events" VALUES(131,14,4,'e7f957a3-d9bd-598d-80ee-be187717d8e8','2031-05-14 09:00:00.000000','Ilaria Venn','panel_read','{"kind": "panel_read", "result": "codes", "shown": [[3, 2]], "codes": ["3-2"], "note": "read by the skipper on the phone, twice"}');
INSERT INTO "events" VALUES(132,15,1,'9447683b-f40b-593c-848e-1d8101734a6e','2031-05-14 08:50:00.000000','Pia Lund','opened','{"kind": "opened", "archetype": "SL", "sheet": "sestra-torre", "revision": "9ac1adf26a92", "plate": {"volts": null, "hertz": null, "heater_w": null, "motor_w": null, "capacity_kg": null, "spin_rpm": null, "year": null, "serial": null}, "age_years": 10.0, "place": "Pensione Alba", "customer": "the night porter", "history": [], "power": "on", "taps": "open", "water": "in", "arrival": "", "odds": {}}');
INSERT INTO "events" VALUES(133,15,2,'9447683b-f40b-593c-848e-1d8101734a6e-c','2031-05-14 08:50:00.000000','Pia Lund','complained','{"kind": "complained", "text": "It walks and bangs in the spin.", "said": ["says_walks"]}');
INSERT INTO "events" VALUES(134,15,3,'80c154a2-57b8-5781-a723-fe4ec97968f8','2031-05-14 09:00:00.000000','Pia Lund','checked','{"kind": "checked", "check": "rock_cabinet", "outcome": "firm", "reading": null, "note": ""}');
INSERT INTO "events" VALUES(135,16,1,'76f5db9c-90aa-594f-9c64-1afc80496831','2031-05-14 08:59:00.000000','Ilaria Venn','opened','{"kind": "opened", "archetype": "FB", "sheet": "nembrio-f7", "revision": "c5667fbb89f2", "plate": {"volts": null, "hertz": null, "heater_w": null, "motor_w": null, "capacity_kg": null, "spin_rpm": null, "year": null, "serial": null}, "age_years": 5.0, "place": "Campsite laundry", "customer": "the warden", "history": ["grit in the mains since the roadworks"], "power": "on", "taps": "open", "water": "in", "arrival": "", "odds": {"filter_blocked": 1.165, "rotor_slips": 1.177}}');
INSERT INTO "events" VALUES(136,16,2,'76f5db9c-90aa-594f-9c64-1afc80496831-c','2031-05-14 08:59:00.000000','Ilaria Venn','complained','{"kind": "complained", "text": "One of them never stops filling, and there is water on the floor.", "said": ["says_overfill", "says_floor_wet"]}');
INSERT INTO "events" VALUES(137,17,1,'2a500a17-1db3-54e2-8d42-984636477aac','2031-05-14 08:59:00.000000','Ilaria Venn','opened','{"kind": "opened", "archetype": "TD", "sheet": "ostrel-linea-t", "revision": "3b52c9579d8f", "plate": {"volts": null, "hertz": null, "heater_w": null, "motor_w": null, "capacity_kg": null, "spin_rpm": null, "year": null, "serial": null}, "age_years": 6.0, "place": "Houseboat Marlin", "customer": "the twins", "history": [], "power": "off", "taps": "shut", "water": "in", "arrival": "", "odds": {}}');
INSERT INTO "events" VALUES(138,17,2,'2a500a17-1db3-54e2-8d42-984636477aac-c','2031-05-14 08:59:00.000000','Ilaria Venn','complained','{"kind": "complained", "text": "It is full of water, does not drain.", "said": ["says_water_stays"]}');
INSERT INTO "events" VALUES(139,18,1,'ca248c07-1366-5f6c-a43c-19b6f127013b','2031-05-14 08:59:00.000000','Pia Lund','opened','{"kind": "opened", "archetype": "FB", "sheet": "nembrio-f9", "revision": "8b083f4ee211", "plate": {"volts": null, "hertz": null, "heater_w": null, "motor_w": null, "capacity_kg": null, "spin_rpm": null, "year": null, "serial": null}, "age_years": 2.0, "place": "Casa Ginestra", "customer": "the tenant", "history": ["new kitchen last month"], "power": "on", "taps": "open", "water": "out", "arrival": "", "odds": {"filter_blocked": 1.165, "rotor_slips": 1.184}}');
INSERT INTO "events" VALUES(140,18,2,'ca248c07-1366-5f6c-a43c-19b6f127013b-c','2031-05-14 08:59:00.000000','Pia Lund','complained','{"kind": "complained", "text": "It takes very long to fill and the programme takes far too long.", "said": ["says_slow_fill"]}');
INSERT INTO "events" VALUES(141,19,1,'1581f6fe-0d37-55c3-8ace-1a38065f0acb','2031-05-14 08:59:00.000000','Tomo Brasch','opened','{"kind": "opened", "archetype": "FI", "sheet": "quernia-compatta-5", "revision": "9546c9861eaa", "plate": {"volts": null, "hertz": null, "heater_w": null, "motor_w": null, "capacity_kg": null, "spin_rpm": null, "year": null, "serial": null}, "age_years": 8.0, "place": "Houseboat Ondina", "customer": "the skipper", "history": [], "power": "on", "taps": "open", "water": "out", "arrival": "", "odds": {}}');
INSERT INTO "events" VALUES(142,19,2,'1581f6fe-0d37-55c3-8ace-1a38065f0acb-c','2031-05-14 08:59:00.000000','Tomo Brasch','complained','{"kind": "complained", "text": "It does nothing at all, no lamp, nothing.", "said": ["says_dead"]}');
INSERT INTO "events" VALUES(143,14,5,'fixture-v1-0001','2031-05-14 09:04:00.000000','Ilaria Venn','set_aside','{"kind": "set_aside", "check": "open_filter", "why": "cannot", "reason": "tool missing"}');
INSERT INTO "events" VALUES(144,14,6,'fixture-v1-0002','2031-05-14 09:05:00.000000','Ilaria Venn','set_aside','{"kind": "set_aside", "check": "time_heating", "why": "not_now", "reason": ""}');
INSERT INTO "events" VALUES(145,14,7,'fixture-v1-0003','2031-05-14 09:06:00.000000','Ilaria Venn','set_aside','{"kind": "set_aside", "check": "run_warm", "why": "cannot", "reason": "the cat sits on it"}');
INSERT INTO "events" VALUES(146,14,8,'fixture-v1-0004','2031-05-14 09:07:00.000000','Ilaria Venn','set_aside','{"kind": "set_aside", "check": "look_commutator", "why": "cannot", "reason": "not allowed"}');
INSERT INTO "events" VALUES(147,14,9,'fixture-v1-0005','2031-05-14 09:08:00.000000','Ilaria Venn','waived','{"kind": "waived", "what": "safe", "reason": "it stands on the bench unplugged"}');
INSERT INTO "events" VALUES(148,14,10,'fixture-v1-0006','2031-05-14 09:09:00.000000','Ilaria Venn','temporary','{"kind": "temporary", "what": "prop under the tub", "undone": false}');
INSERT INTO "events" VALUES(149,14,11,'fixture-v1-0007','2031-05-14 09:10:00.000000','Ilaria Venn','noted','{"kind": "noted", "text": "a note"}');
CREATE TABLE jobs (
	id INTEGER NOT NULL, 
	number VARCHAR(12) NOT NULL, 
	PRIMARY KEY (id), 
	UNIQUE (number)
);
INSERT INTO "jobs" VALUES(1,'0387');
INSERT INTO "jobs" VALUES(2,'0391');
INSERT INTO "jobs" VALUES(3,'0393');
INSERT INTO "jobs" VALUES(4,'0394');
INSERT INTO "jobs" VALUES(5,'0397');
INSERT INTO "jobs" VALUES(6,'0398');
INSERT INTO "jobs" VALUES(7,'0400');
INSERT INTO "jobs" VALUES(8,'0403');
INSERT INTO "jobs" VALUES(9,'0406');
INSERT INTO "jobs" VALUES(10,'0408');
INSERT INTO "jobs" VALUES(11,'0409');
INSERT INTO "jobs" VALUES(12,'0410');
INSERT INTO "jobs" VALUES(13,'0411');
INSERT INTO "jobs" VALUES(14,'0412');
INSERT INTO "jobs" VALUES(15,'0413');
INSERT INTO "jobs" VALUES(16,'0414');
INSERT INTO "jobs" VALUES(17,'0415');
INSERT INTO "jobs" VALUES(18,'0416');
INSERT INTO "jobs" VALUES(19,'0417');
CREATE TABLE members (
	name VARCHAR(60) NOT NULL, 
	role VARCHAR(40) NOT NULL, 
	PRIMARY KEY (name)
);
INSERT INTO "members" VALUES('Ilaria Venn','owner');
INSERT INTO "members" VALUES('Tomo Brasch','technician');
INSERT INTO "members" VALUES('Pia Lund','trainee');
CREATE TABLE settings (
	id INTEGER NOT NULL, 
	body JSON NOT NULL, 
	PRIMARY KEY (id)
);
INSERT INTO "settings" VALUES(1,'{"name": "Officina Faro", "currency": "EUR", "per_eur": 1.0, "rate_per_hour": 54, "visit_fee": 38, "tax_rate": 0.22, "part_markup": 0.15, "mains_v": 230, "mains_hz": 50, "units": "metric", "school": "prove_first", "prove_at": 0.85, "ferry_days": [1, 4]}');
CREATE TABLE sheet_revisions (
	id INTEGER NOT NULL, 
	sheet VARCHAR(60) NOT NULL, 
	seq INTEGER NOT NULL, 
	at DATETIME NOT NULL, 
	author VARCHAR(60) NOT NULL, 
	text TEXT NOT NULL, 
	PRIMARY KEY (id), 
	UNIQUE (sheet, seq)
);
INSERT INTO "sheet_revisions" VALUES(1,'nembrio-f7',1,'2031-05-14 09:02:00.000000','Ilaria Venn','# Invented model. Every value, code and number below is made up for the island of the demo.
sheet: nembrio-f7
maker: Nembrio
model: F7
archetype: FB
paper: Folded in a bag behind the base cover, left corner.
plate: {volts: 230, hertz: 50, heater_w: 1750, motor_w: 480, capacity_kg: 7, spin_rpm: 1200}

panel:
  kind: flash_trains
  lamps: [amber, white]
  most_flashes: 9
  how: Amber flashes the first figure, white the second, then a pause of two seconds; several codes follow each other.
  entry:
  - Plug in with the dial at rest.
  - Hold the two outer keys together.
  - Turn the dial one step and let go when both lamps light.
  - It often fails at first; keep an even pace.
  clear:
  - In service mode hold the start key until white flickers.
  unreadable: {reads: lamps, chances: {some dead: often}}

codes:
  "1-1": {show: [1, 1], name: board memory not plausible, reads: board_sense, stored: {wrong: often}, family: board}
  "1-3": {show: [1, 3], name: board warm-up test failed, reads: board_sense, stored: {wrong: sometimes}, family: board}
  "2-1": {show: [2, 1], name: filling took too long, reads: fill, stored: {slow: often, none: usually}, family: water in}
  "2-2": {show: [2, 2], name: level signal out of range, reads: sensor_track, stored: {drifted: rarely, dead: usually}, family: water in}
  "2-4": {show: [2, 4], name: water above the highest level, reads: overfill, stored: {high: usually}, family: water in}
  "3-2": {show: [3, 2], name: emptying took too long, reads: drain_flow, stored: {slow: often, none: usually}, family: water out}
  "4-1": {show: [4, 1], name: motor does not turn, reads: turning, stored: {weak: rarely, none: usually}, family: drive}
  "4-2": {show: [4, 2], name: speed signal missing, reads: tacho_coil, stored: {open: usually}, family: drive}
  "4-5": {show: [4, 5], name: spin speed not reached, reads: spin, stored: {weak: often, none: sometimes}, family: drive}
  "5-1": {show: [5, 1], name: no rise of temperature, reads: heat_rise, stored: {slow: sometimes, none: usually}, family: heat}
  "5-2": {show: [5, 2], name: thermistor out of range, reads: thermistor_curve, stored: {drifted: rarely, open: always}, family: heat}
  "6-1": {show: [6, 1], name: lock did not close, reads: starts, stored: {sits: often}, family: lock}
  "6-2": {show: [6, 2], name: lock did not open, reads: unlocks, stored: {stays locked: usually}, family: lock}

values:
  pump_coil_ohm: {low: 165, high: 205, unit: ohm, source: "Nembrio F7 sheet, page 3", grade: sheet}
  valve_coil_ohm: {low: 3500, high: 4200, unit: ohm, source: "Nembrio F7 sheet, page 3", grade: sheet}
  lock_coil_ohm: {low: 850, high: 1400, unit: ohm, source: "Nembrio F7 sheet, page 4", grade: sheet}
  tacho_ohm: {low: 62, high: 74, unit: ohm, source: "Nembrio F7 sheet, page 4", grade: sheet}
  motor_ohm: {low: 1.6, high: 3.4, unit: ohm, source: "Nembrio F7 sheet, page 4", grade: sheet}
  brush_mm: {low: 12, high: 38, unit: millimeter, source: "Nembrio F7 sheet, page 4", grade: sheet}
  thermistor_ohm: {low: 5600, high: 15800, unit: ohm, source: "Nembrio F7 sheet, page 5, 10 to 30 °C", grade: sheet}
  level_zero_hz: {low: 42600, high: 43800, unit: hertz, source: "Nembrio F7 sheet, page 5", grade: sheet}
  empty_10l_s: {low: 25, high: 48, unit: second, source: "bench, four sound machines", grade: measured}

parts:
  drain_pump:
  - {number: NB-4410, price_eur: 44, revision: A, tell: grey plug with two pins}
  - {number: NB-4410-2, price_eur: 47, revision: B, tell: white plug with a locking tongue}
  inlet_valve: [{number: NB-2107, price_eur: 31}]
  level_sensor: [{number: NB-2230, price_eur: 27}]
  door_lock: [{number: NB-6105, price_eur: 33}]
  element: [{number: NB-5175, price_eur: 36}]
  brushes: [{number: NB-7712, price_eur: 16}]
  belt: [{number: NB-7301, price_eur: 14}]
  board: [{number: NB-9007, price_eur: 149}]
  bellows: [{number: NB-1180, price_eur: 46}]

weights: {rotor_slips: 26, connector_corroded: 10}
notes:
- Machines before serial 30 000 carry the pump with the grey plug.
- The paper hides behind the kick plate.
');
INSERT INTO "sheet_revisions" VALUES(2,'torvane-alta-10',1,'2031-05-14 09:03:00.000000','Ilaria Venn','# Invented model. Every value, code and number below is made up for the island of the demo.
sheet: torvane-alta-10
maker: Torvane
model: Alta 10
archetype: TS
paper: In a sleeve behind the console.
plate: {volts: 230, hertz: 50, heater_w: 1500, motor_w: 420, capacity_kg: 10, spin_rpm: 750}

panel:
  kind: lamp_weights
  lamps: [page lamp dark, page lamp lit]
  weights: [1, 3, 5, 9, 14]
  how: "Five programme lamps carry weights from the left; their sum is the first figure while the page lamp is dark and the second while it is lit."
  entry:
  - Dial at rest, lid shut.
  - "Against the clock: four clicks forward, one back, two forward, within six seconds."
  - All lamps light once when it has listened; it often fails at first.
  clear:
  - Turn the dial back to rest and hold start until the page lamp blinks.
  unreadable: {reads: dial, chances: {skips: often}}

codes:
  "1.4": {show: [1, 4], name: "filling took too long", reads: fill, stored: {slow: often, none: usually}, family: water in}
  "5.10": {show: [5, 10], name: "water too high", reads: overfill, stored: {high: usually}, family: water in}
  "9.17": {show: [9, 17], name: "level signal out of range", reads: sensor_track, stored: {drifted: rarely, dead: usually}, family: water in}
  "13.23": {show: [13, 23], name: "emptying took too long", reads: drain_flow, stored: {slow: often, none: usually}, family: water out}
  "17.29": {show: [17, 29], name: "drum does not turn", reads: turning, stored: {weak: rarely, none: usually}, family: drive}
  "20.4": {show: [20, 4], name: "spin speed not reached", reads: spin, stored: {weak: often, none: sometimes}, family: drive}
  "24.10": {show: [24, 10], name: "no rise of temperature", reads: heat_rise, stored: {slow: sometimes, none: usually}, family: heat}
  "28.17": {show: [28, 17], name: "thermistor out of range", reads: thermistor_curve, stored: {drifted: rarely, open: always}, family: heat}
  "32.23": {show: [32, 23], name: "memory not plausible", reads: board_sense, stored: {wrong: often}, family: board}
  "4.29": {show: [4, 29], name: "supply fell away", reads: board_supply, stored: {absent: sometimes}, family: board}
  "8.4": {show: [8, 4], name: "too many suds", reads: suds, stored: {high: often}, family: water out}
  "12.10": {show: [12, 10], name: "lid lock closed, contact missing", reads: lid_contact, stored: {open: usually}, family: lock}
  "15.17": {show: [15, 17], name: "lid lock tried and failed", reads: lid_click, stored: {clicks again and again: often, silent: often}, family: lock}
  "19.23": {show: [19, 23], name: "lid lock did not open", reads: lid_unlocks, stored: {stays locked: usually}, family: lock}
  "23.29": {show: [23, 29], name: "shifter position not reached", reads: shifter_contact, stored: {stuck: usually}, family: drive}
  "27.4": {show: [27, 4], name: "shifter does not answer", reads: shifter_moves, stored: {silent: often}, family: drive}
  "31.10": {show: [31, 10], name: "speed pulses missing", reads: speed_signal, stored: {missing: usually}, family: drive}
  "3.17": {show: [3, 17], name: "swings too far in the spin", reads: bobs, stored: {bobs: sometimes}, family: drive}

service: [step_lamps, step_keys, step_lid, step_cold, step_valve_shut, step_level, step_heat, step_turn, step_shifter, step_spin_slow, step_spin_full, step_full_spin, step_drain]
calibration:
- Empty basket, dial five clicks from service mode; it moves the shifter both ways, spins and ends by itself.

values:
  pump_coil_ohm: {low: 150, high: 190, unit: ohm, source: "Torvane Alta 10 sheet, values page", grade: sheet}
  valve_coil_ohm: {low: 3300, high: 4100, unit: ohm, source: "Torvane Alta 10 sheet, values page", grade: sheet}
  run_capacitor_uf: {low: 14.5, high: 16.5, unit: microfarad, source: "marking of the capacitor, 16 µF within 5 % and ageing", grade: measured}
  shifter_ohm: {low: 3200, high: 4200, unit: ohm, source: "Torvane sheet, drive page", grade: sheet}
  main_winding_ohm: {low: 7.5, high: 9.5, unit: ohm, source: "Torvane sheet, drive page", grade: sheet}
  start_winding_ohm: {low: 9, high: 11.5, unit: ohm, source: "Torvane sheet, drive page", grade: sheet}
  wire_ohm:
    low: 10
    high: 20
    unit: ohm
    source: paper
    grade: sheet

parts:
  shifter_motor:
  - {number: TV-6120, price_eur: 32, revision: A, tell: "two wires, white"}
  - {number: TV-6121, price_eur: 35, revision: B, tell: three wires with a brown one}
  run_capacitor: [{number: TV-6016, price_eur: 12}]
  rods: [{number: TV-6400, price_eur: 34}]
  lid_lock: [{number: TV-6703, price_eur: 33}]

weights: {shifter_motor_dead: 38}
');
CREATE TABLE summaries (
	job_id INTEGER NOT NULL, 
	seq INTEGER NOT NULL, 
	body JSON NOT NULL, 
	PRIMARY KEY (job_id), 
	FOREIGN KEY(job_id) REFERENCES jobs (id)
);
INSERT INTO "summaries" VALUES(1,18,'{"machine": "Nembrio F9", "archetype": "FB", "drawing": "FB", "place": "Rowing club", "station": "handover", "lane": "closed", "headline": "Clean the pump filter", "chance": null, "next_step": "Nothing more to do", "minutes": null, "until": null, "note": "", "marks": {}, "words": "Nembrio F9 front loader, belt, universal motor Rowing club the boatman Clean the pump filter Nothing more to do Water stays in the drum. 3-2"}');
INSERT INTO "summaries" VALUES(2,9,'{"machine": "Nembrio F7", "archetype": "FB", "drawing": "FB", "place": "Pensione Alba", "station": "handover", "lane": "closed", "headline": "Nothing wrong found", "chance": null, "next_step": "Nothing more to do", "minutes": null, "until": null, "note": "", "marks": {}, "words": "Nembrio F7 front loader, belt, universal motor Pensione Alba the night porter Nothing wrong found Nothing more to do Suds stay in it after the rinse and the laundry comes out soaking."}');
INSERT INTO "summaries" VALUES(3,14,'{"machine": "Nembrio F9", "archetype": "FB", "drawing": "FB", "place": "Casa Ginestra", "station": "handover", "lane": "recheck", "headline": "Fit a new level tube", "chance": null, "next_step": "Nothing more to do", "minutes": null, "until": "2031-05-26", "note": "Look again", "marks": {}, "words": "Nembrio F9 front loader, belt, universal motor Casa Ginestra the tenant Fit a new level tube Nothing more to do It never stops filling."}');
INSERT INTO "summaries" VALUES(4,9,'{"machine": "Pellandra 400", "archetype": "TG", "drawing": "TG", "place": "Signora Ada''s wash house", "station": "open", "lane": "clock", "headline": "Tub bearing: worn", "chance": 0.9984953097703697, "next_step": "Open up", "minutes": null, "until": null, "note": "The stem soaks until tomorrow", "marks": {"tub_bearing": "solid", "centre_seal": "solid", "mounting_stem": "narrow"}, "words": "Pellandra 400 top loader, gear transmission, centre post Signora Ada''s wash house Ada Tub bearing: worn Open up It roars in the spin and there is a puddle, water under the machine."}');
INSERT INTO "summaries" VALUES(5,20,'{"machine": "Nembrio F9", "archetype": "FB", "drawing": "FB", "place": "Rowing club", "station": "handover", "lane": "closed", "headline": "Fit a new drain pump", "chance": null, "next_step": "Nothing more to do", "minutes": null, "until": null, "note": "", "marks": {}, "words": "Nembrio F9 front loader, belt, universal motor Rowing club the boatman Fit a new drain pump Nothing more to do The water stays in the drum again, and it hums. 3-2"}');
INSERT INTO "summaries" VALUES(6,11,'{"machine": "Nembrio F7", "archetype": "FB", "drawing": "FB", "place": "Villa Corallo", "station": "fit", "lane": "customer", "headline": "Element: thick with scale", "chance": 0.7237415353018226, "next_step": "Fit", "minutes": null, "until": null, "note": "Quote sent", "marks": {"element": "cross", "cut_out": "wide"}, "words": "Nembrio F7 front loader, belt, universal motor Villa Corallo the housekeeper Element: thick with scale Fit The programme takes hours, and the wash is hardly warm. 5-1"}');
INSERT INTO "summaries" VALUES(7,9,'{"machine": "Virgola Asciutta 7", "archetype": "WD", "drawing": "WD", "place": "Villa Corallo", "station": "fit", "lane": "part", "headline": "Drying fan: bearing or wheel worn", "chance": 0.9661434945991704, "next_step": "Fit", "minutes": null, "until": "2031-05-16", "note": "Drying fan", "marks": {"fan": "solid"}, "words": "Virgola Asciutta 7 washer-dryer, belt Villa Corallo the gardener Drying fan: bearing or wheel worn Fit The fan rattles while drying."}');
INSERT INTO "summaries" VALUES(8,11,'{"machine": "Nembrio F7", "archetype": "FB", "drawing": "FB", "place": "Guesthouse Miramar", "station": "fit", "lane": "part", "headline": "Bearings: worn", "chance": 0.9995438664808722, "next_step": "Fit", "minutes": null, "until": "2031-05-16", "note": "Bearing set with seal", "marks": {"bearings": "solid", "shaft_seal": "cross"}, "words": "Nembrio F7 front loader, belt, universal motor Guesthouse Miramar the owner Bearings: worn Fit It roars like a plane in the spin."}');
INSERT INTO "summaries" VALUES(9,8,'{"machine": "Nembrio F7", "archetype": "FB", "drawing": "FB", "place": "Casa Ginestra", "station": "proof", "lane": "person", "headline": "Fit a new bellows", "chance": null, "next_step": "Repeat: pull the folds of the bellows apart all round", "minutes": null, "until": null, "note": "", "marks": {"bellows": "wide"}, "words": "Nembrio F7 front loader, belt, universal motor Casa Ginestra the tenant Fit a new bellows Repeat: pull the folds of the bellows apart all round Water on the floor, it comes from under the door."}');
INSERT INTO "summaries" VALUES(10,5,'{"machine": "Torvane Alta 10", "archetype": "TS", "drawing": "TS", "place": "Campsite laundry", "station": "prove", "lane": "person", "headline": "Shifter motor: does not move", "chance": 0.7973174948566231, "next_step": "Start a spin and listen for the lid lock", "minutes": 1.0, "until": null, "note": "", "marks": {"lid_lock": "wide", "shifter_motor": "cross"}, "words": "Torvane Alta 10 top loader, belt, shifter and clutch Campsite laundry the warden Shifter motor: does not move Start a spin and listen for the lid lock It washes and never spins, the laundry comes out soaking."}');
INSERT INTO "summaries" VALUES(11,6,'{"machine": "Calvessa Dritta 8", "archetype": "FD", "drawing": "FD", "place": "Guesthouse Miramar", "station": "prove", "lane": "person", "headline": "Position sensor: no signal", "chance": 0.7470538263723258, "next_step": "Look into the motor''s plug for green or wet pins", "minutes": 7.0, "until": null, "note": "", "marks": {"inlet_valve": "wide", "position_sensor": "cross", "motor_harness": "narrow"}, "words": "Calvessa Dritta 8 front loader, direct drive Guesthouse Miramar the owner Position sensor: no signal Look into the motor''s plug for green or wet pins It jerks, then stops. The drum does not turn. cE5"}');
INSERT INTO "summaries" VALUES(12,4,'{"machine": "front loader, belt, universal motor", "archetype": "FB", "drawing": "FB", "place": "Rowing club", "station": "prove", "lane": "person", "headline": "Door lock: contact burnt", "chance": 0.5763763034517005, "next_step": "Look at the hook and work the handle", "minutes": 1.0, "until": null, "note": "", "marks": {"door_lock": "cross", "door_hook": "narrow", "door_hinge": "wide"}, "words": "front loader, belt, universal motor front loader, belt, universal motor Rowing club the boatman Door lock: contact burnt Look at the hook and work the handle Lamps are on but it will not start, it clicks again and again."}');
INSERT INTO "summaries" VALUES(13,3,'{"machine": "Quernia Compatta 5", "archetype": "FI", "drawing": "FI", "place": "Rowing club", "station": "prove", "lane": "person", "headline": "Run capacitor: weak", "chance": 0.5783503833008011, "next_step": "Run the drain step and watch the outlet", "minutes": 3.0, "until": null, "note": "", "marks": {"drain_pump": "wide", "belt": "wide", "run_capacitor": "cross"}, "words": "Quernia Compatta 5 front loader, belt, induction motor Rowing club the cook Run capacitor: weak Run the drain step and watch the outlet The spin takes long to build up and the laundry stays too wet."}');
INSERT INTO "summaries" VALUES(14,11,'{"machine": "Nembrio F7", "archetype": "FB", "drawing": "FB", "place": "Houseboat Ondina", "station": "prove", "lane": "person", "headline": "Drain pump: rotor slips, no detents", "chance": 0.39172335206238257, "next_step": "Turn the pump rotor by hand", "minutes": 8.5, "until": null, "note": "", "marks": {"pump_filter": "narrow", "drain_pump": "cross"}, "words": "Nembrio F7 front loader, belt, universal motor Houseboat Ondina the skipper Drain pump: rotor slips, no detents Turn the pump rotor by hand The water stays in the drum and it hums. 3-2"}');
INSERT INTO "summaries" VALUES(15,3,'{"machine": "Sestra Torre", "archetype": "SL", "drawing": "SL", "place": "Pensione Alba", "station": "prove", "lane": "person", "headline": "Suspension rods: worn", "chance": 0.5023488576659142, "next_step": "Run a spin with an even load and watch it", "minutes": 11.0, "until": null, "note": "", "marks": {"use": "wide", "rods": "cross", "balance_ring": "wide"}, "words": "Sestra Torre stacked laundry centre Pensione Alba the night porter Suspension rods: worn Run a spin with an even load and watch it It walks and bangs in the spin."}');
INSERT INTO "summaries" VALUES(16,2,'{"machine": "Nembrio F7", "archetype": "FB", "drawing": "FB", "place": "Campsite laundry", "station": "safe", "lane": "person", "headline": "Inlet valve: sticks open", "chance": 0.6243089510474455, "next_step": "Blow into the tube and listen for the switch or the signal", "minutes": 4.5, "until": null, "note": "", "marks": {"inlet_valve": "cross", "level_sensor": "wide", "bellows": "wide"}, "words": "Nembrio F7 front loader, belt, universal motor Campsite laundry the warden Inlet valve: sticks open Blow into the tube and listen for the switch or the signal One of them never stops filling, and there is water on the floor."}');
INSERT INTO "summaries" VALUES(17,2,'{"machine": "Ostrel Linea T", "archetype": "TD", "drawing": "TD", "place": "Houseboat Marlin", "station": "panel", "lane": "person", "headline": "Drain pump: something in the pump", "chance": 0.2558703566841273, "next_step": "Listen while it drains", "minutes": 1.5, "until": null, "note": "", "marks": {"board": "wide", "drain_pump": "cross", "sump_hose": "wide", "outlet_hose": "wide"}, "words": "Ostrel Linea T top loader, direct drive under the tub Houseboat Marlin the twins Drain pump: something in the pump Listen while it drains It is full of water, does not drain."}');
INSERT INTO "summaries" VALUES(18,2,'{"machine": "Nembrio F9", "archetype": "FB", "drawing": "FB", "place": "Casa Ginestra", "station": "safe", "lane": "person", "headline": "Tap: closed, or pressure low", "chance": 0.2949875102459838, "next_step": "Turn the empty drum by hand", "minutes": 1.5, "until": null, "note": "", "marks": {"tap": "narrow", "fill_hose": "narrow", "inlet_screen": "wide", "standpipe": "narrow"}, "words": "Nembrio F9 front loader, belt, universal motor Casa Ginestra the tenant Tap: closed, or pressure low Turn the empty drum by hand It takes very long to fill and the programme takes far too long."}');
INSERT INTO "summaries" VALUES(19,2,'{"machine": "Quernia Compatta 5", "archetype": "FI", "drawing": "FI", "place": "Houseboat Ondina", "station": "safe", "lane": "person", "headline": "Board: supply dead", "chance": 0.25099431297607866, "next_step": "Measure through the mains filter", "minutes": 7.5, "until": null, "note": "", "marks": {"outlet": "narrow", "cord": "narrow", "mains_filter": "wide", "board": "narrow"}, "words": "Quernia Compatta 5 front loader, belt, induction motor Houseboat Ondina the skipper Board: supply dead Measure through the mains filter It does nothing at all, no lamp, nothing."}');
CREATE INDEX ix_events_job_id ON events (job_id);
CREATE INDEX ix_sheet_revisions_sheet ON sheet_revisions (sheet);
CREATE TRIGGER events_no_update BEFORE UPDATE ON events BEGIN SELECT RAISE(ABORT, 'the log is append-only'); END;
CREATE TRIGGER events_no_delete BEFORE DELETE ON events BEGIN SELECT RAISE(ABORT, 'the log is append-only'); END;
CREATE TRIGGER sheet_revisions_no_update BEFORE UPDATE ON sheet_revisions BEGIN SELECT RAISE(ABORT, 'the log is append-only'); END;
CREATE TRIGGER sheet_revisions_no_delete BEFORE DELETE ON sheet_revisions BEGIN SELECT RAISE(ABORT, 'the log is append-only'); END;
COMMIT;
