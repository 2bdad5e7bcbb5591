//! An archived bank takes nothing, whichever operation it comes by, and everything again when restored.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::runs::whole_run;
use crate::common::{Shop, answer, id, jpeg, opening, reading};
use reqwest::{Method, RequestBuilder, StatusCode};
use serde_json::{Value, json};

/// Operations that change nothing of a bank that is in the shop already, or are for archived banks.
const NOT_OF_A_BANK: [&str; 28] = [
    "archive_bank",
    "restore_bank",
    // new, so that it cannot be archived
    "put_bank",
    "import_file",
    "load_demo",
    // they compute and keep nothing
    "preview_bank",
    "plan_equalize",
    "check_notebook",
    "judge_record",
    "look_at_record",
    "read_climate",
    "read_plan",
    "run_planner",
    "bench_capacity_test",
    "bench_charger",
    "bench_parallel_share",
    "bench_short_load",
    "bench_ventilation",
    // of the shop
    "put_site",
    "put_model",
    "supersede_model",
    "put_house_rules",
    "put_person",
    "open_calendar_feed",
    "close_calendar_feed",
    "open_code",
    "pair",
    "revoke_device",
];

/// Operations that are refused for what stands in the bank, archived or not: an open visit, one in which
/// something is written down, a run that has begun. A run that has not keeps its bank from being archived.
const REFUSED_AS_WELL: [&str; 4] = ["put_visit", "reopen_visit", "discard_visit", "discard_run"];

/// A week of a monitor's file.
fn record() -> String {
    let lines = (1..8).map(|day| format!("2026-09-0{day}T10:00:00Z,12.7,1.0\n"));
    format!("Time,Bank voltage (V),Bank current (A)\n{}", lines.collect::<String>())
}

/// A bank with something of everything.
struct Full<'a> {
    shop: &'a Shop,
    bank: String,
    visit: String,
    closed: String,
    photo: [String; 2],
    round: String,
    run: String,
    plan: String,
    record: [String; 2],
    source: String,
    reminder: String,
    change: String,
}

impl<'a> Full<'a> {
    async fn of(shop: &'a Shop) -> Self {
        let bank = shop.bank().await;
        let done = async |method: Method, path: String, body: Value| {
            let request = shop.request(method.clone(), &path).header("if-match", "\"1\"").json(&body);
            let (status, said) = answer(request.send().await.unwrap()).await;
            assert!(status.is_success(), "{method} {path}: {said}");
        };
        let closed = shop.short_visit(&bank, "water").await;
        let (status, said) = shop.close_visit(&closed, 1, "desk").await;
        assert_eq!(status, StatusCode::OK, "{said}");
        let visit = shop.visit(&bank).await;
        let photo = [id(), id()];
        for (shade, photo) in (1..).zip(&photo) {
            let path = format!("/api/visits/{visit}/photos/{photo}?what=wiring");
            let sent = shop.request(Method::PUT, &path).body(jpeg(9, 9, shade)).send().await.unwrap();
            assert!(sent.status().is_success());
        }
        done(Method::DELETE, format!("/api/photos/{}", photo[1]), json!(null)).await;
        let round = shop.round(&bank).await;
        shop.read(&round, "A1-1", "270").await;
        let (run, _) = whole_run(shop, &bank).await;
        let (plan, reminder, change) = (id(), id(), id());
        let asked = json!({"planner": "storage", "name": "winter", "asked": {"bank": bank, "values": {}}});
        done(Method::PUT, format!("/api/plans/{plan}"), asked).await;
        let look = json!({"bank": bank, "day": "2026-11-01", "text": "look"});
        done(Method::PUT, format!("/api/reminders/{reminder}"), look).await;
        let cracked = json!({"day": "2026-10-08", "kind": "replaced", "battery": "A1", "reason": "cracked"});
        done(Method::PUT, format!("/api/banks/{bank}/changes/{change}"), cracked).await;
        let looked = shop.request(Method::POST, "/api/records/look").body(record()).send().await.unwrap();
        let mut source = answer(looked).await.1["source"].clone();
        source["name"] = "monitor".into();
        source["positive"] = "charges".into();
        let record = [id(), id()];
        let full = Self {
            source: source.to_string(),
            shop,
            bank,
            visit,
            closed,
            photo,
            round,
            run,
            plan,
            record,
            reminder,
            change,
        };
        for record in &full.record {
            let (status, said) = answer(full.file(record).send().await.unwrap()).await;
            assert_eq!(status, StatusCode::OK, "{said}");
        }
        done(Method::DELETE, format!("/api/records/{}", full.record[1]), json!(null)).await;
        full
    }

    fn file(&self, record: &str) -> RequestBuilder {
        let query = [("source", self.source.as_str()), ("file", "monitor.csv")];
        self.shop
            .request(Method::PUT, &format!("/api/banks/{}/records/{record}", self.bank))
            .query(&query)
            .body(self::record())
    }

    fn own(&self, method: Method, path: &str) -> RequestBuilder {
        self.shop.request(method, path).header("if-match", "\"1\"")
    }

    fn put(&self, path: &str, body: &Value) -> RequestBuilder {
        self.own(Method::PUT, path).json(body)
    }

    /// Every operation that changes a bank, by its name in the interface, as somebody sends it who has just
    /// looked.
    async fn changes(&self) -> Vec<(&'static str, RequestBuilder)> {
        let mut all = self.of_its_description().await;
        all.extend(self.of_what_lies_beside_it());
        all.extend(self.of_work_on_it());
        all
    }

    async fn of_its_description(&self) -> Vec<(&'static str, RequestBuilder)> {
        let bank = format!("/api/banks/{}", self.bank);
        let looked = self.shop.request(Method::GET, &bank).send().await.unwrap();
        let version = looked.headers()["etag"].clone();
        let model = self.shop.get(&format!("{bank}/model")).await["version"].clone();
        let ask = |method: Method, path: String| {
            self.shop.request(method, &path).header("if-match", version.clone())
        };
        vec![
            ("delete_bank", ask(Method::DELETE, bank.clone())),
            ("put_access", ask(Method::PUT, format!("{bank}/access")).json(&json!({"notes": {}}))),
            (
                "put_bank_rules",
                ask(Method::PUT, format!("{bank}/house-rules")).json(&json!({"rules": "light_touch"})),
            ),
            ("put_overrides", ask(Method::PUT, format!("{bank}/overrides")).json(&json!({"choices": {}}))),
            ("edit_bank", ask(Method::POST, format!("{bank}/description")).json(&json!({"site_name": "Dipper", "zone": "UTC", "name": "shed", "duty": "", "in_service": null, "layout": {}}))),
            (
                "exchange_bank_model",
                self.shop
                    .request(Method::POST, &format!("{bank}/model"))
                    .header("if-match", format!("\"{model}\""))
                    .json(&json!({"model": "flooded-6v-420", "reason": "read wrong"})),
            ),
            (
                "put_equipment",
                self.shop
                    .request(Method::PUT, &format!("{bank}/equipment"))
                    .header("if-match", "\"0\"")
                    .json(&json!({"equipment": {}})),
            ),
        ]
    }

    fn of_what_lies_beside_it(&self) -> Vec<(&'static str, RequestBuilder)> {
        let bank = format!("/api/banks/{}", self.bank);
        let own = |method: Method, path: String| self.own(method, &path);
        let put = |path: String, body: Value| self.put(&path, &body);
        vec![
            (
                "put_change",
                put(
                    format!("{bank}/changes/{}", id()),
                    json!({"day": "2026-10-08", "kind": "replaced", "battery": "A2", "reason": "cracked"}),
                ),
            ),
            ("undo_change", own(Method::POST, format!("/api/changes/{}/undo", self.change)).json(&json!({}))),
            (
                "take_notebook",
                own(Method::PUT, format!("{bank}/notebook/{}", id()))
                    .header("content-type", "text/csv")
                    .body("cell,2026-03-05\nA1-1,265\n"),
            ),
            ("read_record", self.file(&id())),
            ("take_record_out", own(Method::DELETE, format!("/api/records/{}", self.record[0]))),
            ("put_record_back", own(Method::POST, format!("/api/records/{}/put-back", self.record[1]))),
            (
                "put_plan",
                put(
                    format!("/api/plans/{}", id()),
                    json!({"planner": "storage", "name": "late", "asked": {"bank": self.bank, "values": {}}}),
                ),
            ),
            ("delete_plan", own(Method::DELETE, format!("/api/plans/{}", self.plan))),
            (
                "put_reminder",
                put(
                    format!("/api/reminders/{}", id()),
                    json!({"bank": self.bank, "day": "2026-11-01", "text": "look"}),
                ),
            ),
            (
                "reminder_done",
                own(Method::POST, format!("/api/reminders/{}/done", self.reminder)).json(&json!({})),
            ),
            (
                "put_postponement",
                put(
                    format!("/api/postponements/{}", id()),
                    json!({"bank": self.bank, "task": "round", "from": "2026-10-08", "until": "2026-10-20", "reason": "rain"}),
                ),
            ),
        ]
    }

    fn of_work_on_it(&self) -> Vec<(&'static str, RequestBuilder)> {
        let own = |method: Method, path: String| self.own(method, &path);
        let put = |path: String, body: Value| self.put(&path, &body);
        let note = json!({"what": {"kind": "note", "text": "x"}, "taken_at": "2026-10-08T09:00:00Z"});
        let (visit, closed, round, run) = (&self.visit, &self.closed, &self.round, &self.run);
        let photo = |which: usize| format!("/api/photos/{}", self.photo[which]);
        vec![
            ("put_round", put(format!("/api/rounds/{}", id()), opening(&self.bank))),
            (
                "edit_round",
                own(Method::POST, format!("/api/rounds/{round}/conditions")).json(&opening(&self.bank)),
            ),
            ("put_reading", put(format!("/api/rounds/{round}/readings/{}", id()), reading("A1-2", "271"))),
            ("finish_round", own(Method::POST, format!("/api/rounds/{round}/finish"))),
            (
                "put_run",
                put(
                    format!("/api/runs/{}", id()),
                    json!({"bank": self.bank, "kind": "corrective", "pilot": "A2-2", "temperature": {"typed": "20", "unit": "C"}}),
                ),
            ),
            (
                "put_run_entry",
                put(format!("/api/runs/{run}/entries/{}", id()), json!({"what": "note", "text": "fan on"})),
            ),
            ("discard_run", own(Method::DELETE, format!("/api/runs/{run}"))),
            ("put_visit", put(format!("/api/visits/{}", id()), json!({"bank": self.bank}))),
            ("put_visit_entry", put(format!("/api/visits/{visit}/entries/{}", id()), note)),
            (
                "put_photo",
                own(Method::PUT, format!("/api/visits/{visit}/photos/{}?what=wiring", id()))
                    .body(jpeg(9, 9, 7)),
            ),
            ("put_caption", put(format!("{}/caption", photo(0)), json!({"caption": "x"}))),
            ("remove_photo", own(Method::DELETE, photo(0))),
            ("put_back_photo", own(Method::POST, format!("{}/restore", photo(1)))),
            ("close_visit", own(Method::POST, format!("/api/visits/{visit}/close"))),
            (
                "reopen_visit",
                self.shop
                    .request(Method::POST, &format!("/api/visits/{closed}/reopen"))
                    .header("if-match", "\"2\""),
            ),
            ("discard_visit", own(Method::DELETE, format!("/api/visits/{visit}"))),
        ]
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn an_archived_bank_takes_nothing_by_any_operation_and_everything_again_when_restored() {
    let shop = Shop::open().await;
    let full = Full::of(&shop).await;
    let archive = async |what: &str| {
        let request = shop.request(Method::POST, &format!("/api/banks/{}/{what}", full.bank));
        request.send().await.unwrap().status()
    };
    let file = async || shop.get(&format!("/api/banks/{}/export.json", full.bank)).await;
    assert_eq!(archive("archive").await, StatusCode::NO_CONTENT);
    let before = file().await;
    let changes = full.changes().await;
    // an operation that is new is looked at here as well
    let document = shop.get("/api/openapi.json").await;
    let paths = document["paths"].as_object().unwrap().values().flat_map(|path| path.as_object().unwrap());
    let mut known: Vec<&str> = paths
        .filter(|(method, _)| *method != "get")
        .map(|(_, own)| own["operationId"].as_str().unwrap())
        .collect();
    let mut looked_at: Vec<&str> = changes.iter().map(|(name, _)| *name).chain(NOT_OF_A_BANK).collect();
    known.sort_unstable();
    looked_at.sort_unstable();
    assert_eq!(looked_at, known);
    let mut taken = Vec::new();
    for (name, request) in changes {
        let (status, said) = answer(request.send().await.unwrap()).await;
        let archived = (status, &said["type"]) == (StatusCode::CONFLICT, &json!("/problems/archived"));
        let as_well = REFUSED_AS_WELL.contains(&name) && status.is_client_error();
        if !archived && !as_well {
            taken.push(format!("{name}: {status} {said}"));
        }
    }
    assert_eq!(taken, Vec::<String>::new());
    // it is read, and its file goes out as it was
    let text = |mut file: Value| {
        file.as_object_mut().unwrap().remove("exported_at");
        file.to_string()
    };
    assert_eq!(text(file().await), text(before));
    assert_eq!(archive("restore").await, StatusCode::NO_CONTENT);
    assert_eq!(shop.read(&full.round, "A1-2", "271").await.0, StatusCode::CREATED);
    let back = format!("/api/records/{}/put-back", full.record[1]);
    assert_eq!(shop.send(Method::POST, &back, &json!(null)).await.0, StatusCode::NO_CONTENT);
    // who did it stands in the event log
    let db = rusqlite::Connection::open(shop.folder.path().join("rainshadow.db")).unwrap();
    for (what, subject) in [
        ("bank archived", &full.bank),
        ("bank restored", &full.bank),
        ("file of a monitor taken out", &full.record[1]),
        ("file of a monitor put back", &full.record[1]),
    ] {
        let said = "SELECT person FROM event_log WHERE what = ? AND subject = ?";
        let said: String = db.query_row(said, [what, subject.as_str()], |row| row.get(0)).unwrap();
        assert_eq!(said, "TA on desk", "{what}");
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn a_file_brings_nothing_new_into_an_archived_bank() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let round = shop.round(&bank).await;
    shop.read(&round, "A1-1", "270").await;
    let file = shop.get(&format!("/api/banks/{bank}/export.json")).await;
    let mut more = file.clone();
    let mut later = file["rounds"][0].clone();
    later["id"] = json!(id());
    later["readings"].as_array_mut().unwrap().iter_mut().for_each(|entry| entry["id"] = json!(id()));
    more["rounds"].as_array_mut().unwrap().push(later);
    let sent = shop.request(Method::POST, &format!("/api/banks/{bank}/archive")).send().await.unwrap();
    assert_eq!(sent.status(), StatusCode::NO_CONTENT);
    let (status, said) = shop.send(Method::POST, "/api/import", &more).await;
    assert_eq!((status, &said["type"]), (StatusCode::CONFLICT, &json!("/problems/archived")), "{said}");
    // the same as it stands is no fault
    assert_eq!(shop.send(Method::POST, "/api/import", &file).await.0, StatusCode::OK);
    let rounds = shop.get(&format!("/api/banks/{bank}/export.json")).await["rounds"].clone();
    assert_eq!(rounds.as_array().unwrap().len(), 1);
}

#[tokio::test(flavor = "multi_thread")]
async fn an_archived_bank_takes_no_visit_and_one_that_is_begun_stays() {
    let shop = Shop::open().await;
    let (begun, other) = (shop.bank().await, shop.bank().await);
    let visit = shop.visit(&begun).await;
    let closed = shop.visit(&other).await;
    assert_eq!(shop.close_visit(&closed, 1, "desk").await.0, StatusCode::OK);
    for bank in [&begun, &other] {
        let sent = shop.request(Method::POST, &format!("/api/banks/{bank}/archive")).send().await.unwrap();
        assert_eq!(sent.status(), StatusCode::NO_CONTENT);
    }
    let again =
        shop.request(Method::POST, &format!("/api/visits/{closed}/reopen")).header("if-match", "\"2\"");
    for (what, (status, said)) in [
        ("thrown away", shop.send(Method::DELETE, &format!("/api/visits/{visit}"), &json!(null)).await),
        ("begun", shop.put(&format!("/api/visits/{}", id()), &json!({"bank": other})).await),
        ("opened again", answer(again.send().await.unwrap()).await),
    ] {
        assert_eq!((status, &said["type"]), (StatusCode::CONFLICT, &json!("/problems/archived")), "{what}");
    }
    assert_eq!(shop.get(&format!("/api/visits/{visit}")).await["bank"], begun);
}
