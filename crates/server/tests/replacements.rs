//! Batteries replaced and moved, own house rules, exports with visits, backup and restore.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::{Shop, id};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

const CELLS: [&str; 6] = ["A1-1", "A1-2", "A1-3", "A2-1", "A2-2", "A2-3"];

async fn round(shop: &Shop, bank: &str, values: [&str; 6]) -> String {
    let round = shop.round(bank).await;
    for (cell, typed) in CELLS.into_iter().zip(values) {
        shop.read(&round, cell, typed).await;
    }
    assert_eq!(shop.finish(&round, 1, "desk").await.0, StatusCode::OK);
    round
}

fn replaced(battery: &str, day: &str) -> Value {
    json!({"kind": "replaced", "battery": battery, "day": day, "serial": "77-1", "date_code": "K6", "reason": "dead cell"})
}

#[tokio::test(flavor = "multi_thread")]
async fn a_new_battery_starts_without_history_and_the_old_rounds_keep_theirs() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let first = round(&shop, &bank, ["277", "276", "275", "276", "240", "276"]).await;
    let change = id();
    let path = format!("/api/banks/{bank}/changes/{change}");
    assert_eq!(shop.put(&path, &replaced("A2", "2026-10-08")).await.0, StatusCode::CREATED);
    assert_eq!(shop.put(&path, &replaced("A2", "2026-10-08")).await.0, StatusCode::OK, "said twice");
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    assert_eq!(page["changes"][0]["said"], "A2 was replaced by TA: dead cell");
    let stood: Vec<(&str, &str)> = page["stood"]
        .as_array()
        .unwrap()
        .iter()
        .map(|s| (s["from"].as_str().unwrap(), s["to"].as_str().unwrap()))
        .collect();
    assert_eq!(stood, [("", "8 Oct 2026"), ("8 Oct 2026", "")]);
    // the round read before the swap still tells what was read at A2-2
    let old = shop.get(&format!("/api/rounds/{first}")).await;
    let cell = old["cells"].as_array().unwrap().iter().find(|c| c["view"]["cell"] == "A2-2").unwrap();
    assert_eq!(cell["view"]["gravity"], "1.240");
    // what the old block showed is no verdict on the bank any more; the new one is to be read
    assert_eq!(page["condition"], "steady", "{}", page["verdict"]);
    let here = page["cells"].as_array().unwrap().iter().find(|c| c["cell"] == "A2-2").unwrap();
    assert_eq!((&here["condition"], &here["gravity"]), (&json!("no_reading"), &Value::Null));
    assert!(page["doubts"].to_string().contains("A2 came on 8 Oct 2026"), "{}", page["doubts"]);
    let titles: Vec<&str> =
        page["due"].as_array().unwrap().iter().map(|d| d["title"].as_str().unwrap()).collect();
    assert!(titles.contains(&"First readings of A2"), "{titles:?}");
    assert!(!titles.iter().any(|t| t.contains("A2-2")), "{titles:?}");
    let list = shop.get("/api/banks").await;
    assert_eq!(list[0]["condition"], "steady");
    // the line of the place is that of the new block: empty
    assert_eq!(shop.get(&format!("/api/banks/{bank}/cells/A2-2")).await["points"], json!([]));
    assert_eq!(
        shop.get(&format!("/api/banks/{bank}/cells/A1-1")).await["points"].as_array().unwrap().len(),
        1
    );
    // undone: the old block stands there again with its history
    let by = json!({});
    let (status, _) = shop.send(Method::POST, &format!("/api/changes/{change}/undo"), &by).await;
    assert_eq!(status, StatusCode::NO_CONTENT);
    assert_eq!(shop.get(&format!("/api/banks/{bank}/cells/A2-2")).await["points"][0]["gravity"], 1.24);
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    assert_eq!(
        (page["changes"][0]["undone_by"].as_str(), page["stood"].as_array().unwrap().len()),
        (Some("TA"), 0)
    );
}

#[tokio::test(flavor = "multi_thread")]
async fn two_that_change_places_take_their_history_along() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    round(&shop, &bank, ["270", "271", "272", "276", "277", "278"]).await;
    let swap =
        json!({"kind": "swapped", "battery": "A1", "other": "A2", "day": "2026-10-08", "reason": "rotated"});
    assert_eq!(shop.put(&format!("/api/banks/{bank}/changes/{}", id()), &swap).await.0, StatusCode::CREATED);
    let gravity = async |cell: &str| {
        shop.get(&format!("/api/banks/{bank}/cells/{cell}")).await["points"][0]["gravity"].clone()
    };
    assert_eq!((gravity("A1-1").await, gravity("A2-3").await), (json!(1.276), json!(1.272)));
}

#[tokio::test(flavor = "multi_thread")]
async fn a_new_sealed_battery_is_not_judged_by_the_volts_of_the_old_one() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("agm-12v-100", 24, 2, 2).await;
    let visit = id();
    let open = json!({"bank": bank});
    shop.put(&format!("/api/visits/{visit}"), &open).await;
    let say = async |place: &str, what: Value| {
        let body = json!({"place": place, "what": what, "taken_at": "2026-10-08T08:00:00Z"});
        let (status, said) = shop.put(&format!("/api/visits/{visit}/entries/{}", id()), &body).await;
        assert!(status.is_success(), "{said}");
    };
    say("", json!({"kind": "rested", "hours_since_charge": "30", "hours_since_load": "30"})).await;
    for (place, volts) in [("A1", "12.85"), ("A2", "12.84"), ("B1", "12.86"), ("B2", "12.40")] {
        say(place, json!({"kind": "battery_volts", "typed": volts, "stands": true})).await;
    }
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    assert!(page["findings"].to_string().contains("B2"), "{}", page["findings"]);
    let change = replaced("B2", "2026-10-08");
    assert_eq!(
        shop.put(&format!("/api/banks/{bank}/changes/{}", id()), &change).await.0,
        StatusCode::CREATED
    );
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    assert!(!page["findings"].to_string().contains("B2"), "{}", page["findings"]);
    assert!(page["doubts"].to_string().contains("B2 came on 8 Oct 2026"), "{}", page["doubts"]);
    assert!(page["due"].to_string().contains("First readings of B2"), "{}", page["due"]);
}

#[tokio::test(flavor = "multi_thread")]
async fn one_that_was_taken_out_moves_into_another_bank_with_its_history() {
    let shop = Shop::open().await;
    let (first, second) = (shop.bank().await, shop.bank().await);
    round(&shop, &first, ["270", "271", "272", "276", "277", "278"]).await;
    let shelf = async |bank: &str| {
        shop.get(&format!("/api/banks/{bank}/taken-out")).await["taken_out"].as_array().unwrap().clone()
    };
    assert!(shelf(&second).await.is_empty(), "nothing was taken out yet");
    let (out, moved) = (id(), id());
    shop.put(&format!("/api/banks/{first}/changes/{out}"), &replaced("A1", "2026-10-08")).await;
    let old = shelf(&second).await[0].clone();
    assert_eq!((old["out"].as_str(), old["other_model"].as_bool()), (Some("8 Oct 2026"), Some(false)));
    assert!(old["stood"].as_str().unwrap().ends_with(" A1"), "{old}");
    let used = |day: &str, block: &Value| {
        let mut change = replaced("A2", day);
        change["used"] = block.clone();
        change
    };
    let path = format!("/api/banks/{second}/changes/{moved}");
    for (body, field) in
        [(used("2026-10-01", &old["block"]), "day"), (used("2026-10-08", &json!(id())), "used")]
    {
        let (status, said) = shop.put(&path, &body).await;
        assert_eq!(
            (status, said["errors"][0]["field"].as_str()),
            (StatusCode::UNPROCESSABLE_ENTITY, Some(field)),
            "{said}"
        );
    }
    let body = used("2026-10-08", &old["block"]);
    assert_eq!(shop.put(&path, &body).await.0, StatusCode::CREATED);
    assert_eq!(shop.put(&path, &body).await.0, StatusCode::OK, "said twice");
    // the history came along, and says where it was made
    let points = shop.get(&format!("/api/banks/{second}/cells/A2-3")).await["points"].clone();
    assert_eq!((points[0]["gravity"].clone(), points[0]["elsewhere"].is_string()), (json!(1.272), true));
    let page = shop.get(&format!("/api/banks/{second}")).await;
    assert!(
        page["changes"][0]["said"].as_str().unwrap().contains("with the one from"),
        "{}",
        page["changes"]
    );
    let here = page["stood"].as_array().unwrap().iter().find(|s| s["to"] == "").unwrap();
    assert!(here["also"].as_str().unwrap().starts_with("before in "), "{here}");
    let page = shop.get(&format!("/api/banks/{first}")).await;
    let gone = page["stood"].as_array().unwrap().iter().find(|s| s["to"] == "8 Oct 2026").unwrap();
    assert!(gone["also"].as_str().unwrap().starts_with("now in "), "{gone}");
    // the one it took the place of is on the shelf now; the moved one is not
    let left: Vec<Value> = shelf(&first).await;
    assert!(left.len() == 1 && left[0]["block"] != old["block"], "{left:?}");
    // taking it out of the first bank cannot be undone while it stands in the second
    let by = json!({});
    let undo =
        async |change: &str| shop.send(Method::POST, &format!("/api/changes/{change}/undo"), &by).await;
    let (status, said) = undo(&out).await;
    assert_eq!(status, StatusCode::CONFLICT);
    assert!(said["detail"].as_str().unwrap().contains("undo that change first"), "{said}");
    assert_eq!(undo(&moved).await.0, StatusCode::NO_CONTENT, "readings made elsewhere do not hold it");
    assert_eq!(undo(&out).await.0, StatusCode::NO_CONTENT);
    assert!(shelf(&second).await.is_empty());
    assert_eq!(shop.get(&format!("/api/banks/{first}/cells/A1-3")).await["points"][0]["gravity"], 1.272);
}

#[tokio::test(flavor = "multi_thread")]
async fn changes_that_cannot_be_are_refused_with_their_field() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let path = || format!("/api/banks/{bank}/changes/{}", id());
    let mut same = replaced("A1", "2026-10-01");
    same["kind"] = json!("swapped");
    same["other"] = json!("A1");
    let mut silent = replaced("A1", "2026-10-01");
    silent["reason"] = json!("");
    for (body, field) in [
        (replaced("A1", "2026-11-01"), "day"),
        (replaced("A1", "in May"), "day"),
        (replaced("A9", "2026-10-01"), "cell"),
        (replaced("9A", "2026-10-01"), "battery"),
        (same, "other"),
        (silent, "reason"),
    ] {
        let (status, said) = shop.put(&path(), &body).await;
        assert_eq!(
            (status, said["errors"][0]["field"].as_str()),
            (StatusCode::UNPROCESSABLE_ENTITY, Some(field)),
            "{said}"
        );
    }
    // a change from before the last reading would leave that reading without its battery
    let read = shop.bank().await;
    round(&shop, &read, ["270", "271", "272", "276", "277", "278"]).await;
    let (status, said) =
        shop.put(&format!("/api/banks/{read}/changes/{}", id()), &replaced("A1", "2026-10-07")).await;
    assert_eq!(
        (status, said["errors"][0]["message"].as_str()),
        (
            StatusCode::UNPROCESSABLE_ENTITY,
            Some("Something was written down at A1 on 8 Oct 2026; a change is of that day or later.")
        ),
    );
    let (first, second) = (id(), id());
    shop.put(&format!("/api/banks/{bank}/changes/{first}"), &replaced("A1", "2026-09-01")).await;
    let (status, said) = shop.put(&path(), &replaced("A1", "2026-08-01")).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(said["detail"].as_str().unwrap().contains("came on 2026-09-01"), "{said}");
    shop.put(&format!("/api/banks/{bank}/changes/{second}"), &replaced("A2", "2026-09-02")).await;
    let by = json!({});
    let (status, _) = shop.send(Method::POST, &format!("/api/changes/{first}/undo"), &by).await;
    assert_eq!(status, StatusCode::CONFLICT, "the later one stands");
}

#[tokio::test(flavor = "multi_thread")]
async fn a_set_of_ones_own_judges_and_its_change_judges_anew() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    round(&shop, &bank, ["277", "276", "275", "276", "256", "276"]).await;
    let (status, said) = shop
        .put(
            "/api/house-rules/maker_first",
            &json!({"from": "maker_first", "name": "x", "maker_limits_win": true, "choices": {}}),
        )
        .await;
    assert_eq!(status, StatusCode::CONFLICT, "{said}");
    let set = |spread: f64| json!({"from": "maker_first", "name": "Hollin shop", "maker_limits_win": false, "choices": {"spread_equalize": spread, "spread_watch": 10.0}});
    let (status, said) = shop.put("/api/house-rules/own-1", &set(5.0)).await;
    assert_eq!(
        (status, said["errors"][0]["field"].as_str()),
        (StatusCode::UNPROCESSABLE_ENTITY, Some("spread_watch")),
        "{said}"
    );
    assert_eq!(shop.put("/api/house-rules/own-1", &set(40.0)).await.0, StatusCode::CREATED);
    shop.change(&format!("/api/banks/{bank}/house-rules"), &json!({"rules": "own-1"})).await;
    let condition =
        async || shop.get(&format!("/api/banks/{bank}")).await["condition"].as_str().unwrap().to_owned();
    assert_eq!(condition().await, "watch", "21 points apart, the set equalizes from 40");
    // without the version that was seen, and with an older one, it stays as it is
    assert_eq!(shop.put("/api/house-rules/own-1", &set(15.0)).await.0, StatusCode::PRECONDITION_REQUIRED);
    let late = shop.request(Method::PUT, "/api/house-rules/own-1").header("if-match", "\"0\"");
    let (status, said) = crate::common::answer(late.json(&set(15.0)).send().await.unwrap()).await;
    assert_eq!(
        (status, &said["theirs"]["key"]),
        (StatusCode::PRECONDITION_FAILED, &json!("own-1")),
        "{said}"
    );
    assert_eq!(shop.change("/api/house-rules/own-1", &set(15.0)).await.0, StatusCode::CREATED);
    assert_eq!(condition().await, "act", "the changed set judges at once");
    // one bank takes one choice otherwise
    let (status, said) = shop
        .change(&format!("/api/banks/{bank}/overrides"), &json!({"choices": {"spread_equalize": 400.0}}))
        .await;
    assert_eq!(
        (status, said["errors"][0]["field"].as_str()),
        (StatusCode::UNPROCESSABLE_ENTITY, Some("spread_equalize"))
    );
    shop.change(&format!("/api/banks/{bank}/overrides"), &json!({"choices": {"spread_equalize": 60.0}}))
        .await;
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    assert_eq!(
        (page["condition"].as_str(), page["house"].as_str()),
        (Some("watch"), Some("Hollin shop, own choices"))
    );
    let choices = shop.get("/api/house-rules/choices").await;
    let spread = choices.as_array().unwrap().iter().find(|c| c["key"] == "spread_equalize").unwrap();
    assert_eq!((spread["unit"].as_str(), spread["values"]["own-1"].as_f64()), (Some("points"), Some(15.0)));
}

fn jpeg() -> Vec<u8> {
    let picture =
        image::DynamicImage::ImageRgb8(image::RgbImage::from_pixel(64, 48, image::Rgb([120, 90, 30])));
    let mut out = std::io::Cursor::new(Vec::new());
    picture.write_to(&mut out, image::ImageFormat::Jpeg).unwrap();
    out.into_inner()
}

/// A bank with a visit, a photograph, a replaced battery and access notes.
async fn lived_in(shop: &Shop) -> String {
    let bank = shop.bank().await;
    let visit = id();
    shop.put(&format!("/api/visits/{visit}"), &json!({"bank": bank})).await;
    let body = json!({"place": "A1", "what": {"kind": "battery_volts", "typed": "6.33"}, "taken_at": "2026-10-08T09:00:00Z"});
    shop.put(&format!("/api/visits/{visit}/entries/{}", id()), &body).await;
    let path = format!("/api/visits/{visit}/photos/{}?what=wiring", id());
    let sent = shop.request(Method::PUT, &path).body(jpeg()).send().await.unwrap();
    assert_eq!(sent.status(), StatusCode::CREATED);
    shop.put(&format!("/api/banks/{bank}/changes/{}", id()), &replaced("A2", "2026-10-07")).await;
    shop.change(&format!("/api/banks/{bank}/access"), &json!({"notes": {"switch": "left of the door"}}))
        .await;
    bank
}

#[tokio::test(flavor = "multi_thread")]
async fn an_export_carries_visits_photographs_and_lives_into_another_folder() {
    let (shop, other) = (Shop::open().await, Shop::open().await);
    let bank = lived_in(&shop).await;
    let export = async |from: &Shop| from.get(&format!("/api/banks/{bank}/export.json")).await;
    let file = export(&shop).await;
    let (status, said) = other.send(Method::POST, "/api/import", &file).await;
    assert_eq!((status, said["new"].as_bool()), (StatusCode::OK, Some(true)), "{said}");
    assert_eq!(export(&other).await, file);
    assert_eq!(other.send(Method::POST, "/api/import", &file).await.1["new"], false, "again changes nothing");
    let photo = file["visits"][0]["photographs"][0]["id"].as_str().unwrap();
    let shown = other.request(Method::GET, &format!("/api/photos/{photo}")).send().await.unwrap();
    assert_eq!(shown.status(), StatusCode::OK);
    let page = other.get(&format!("/api/banks/{bank}")).await;
    assert_eq!(page["changes"], shop.get(&format!("/api/banks/{bank}")).await["changes"]);
    assert_eq!(page["bank"]["access"]["switch"], "left of the door");
    // bytes that are not what their hash says are refused before anything is taken
    let third = Shop::open().await;
    let mut bad = file.clone();
    let hash = bad["pictures"].as_object().unwrap().keys().next().unwrap().clone();
    bad["pictures"][&hash] = json!("aGVsbG8=");
    let (status, _) = third.send(Method::POST, "/api/import", &bad).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    bad["pictures"] = json!({});
    let (_, said) = third.send(Method::POST, "/api/import", &bad).await;
    assert!(said["detail"].as_str().unwrap().contains("bytes are missing"), "{said}");
    assert_eq!(third.get("/api/banks").await, json!([]));
}

#[tokio::test(flavor = "multi_thread")]
async fn a_backup_taken_while_running_restores_everything_elsewhere() {
    use rainshadow::backup::{restore, write};
    let shop = Shop::open().await;
    let bank = lived_in(&shop).await;
    let before = shop.get(&format!("/api/banks/{bank}/export.json")).await;
    let out = tempfile::tempdir().unwrap();
    let file = out.path().join("monday.tar");
    write(shop.folder.path(), &file).unwrap();
    assert!(write(shop.folder.path(), &file).unwrap_err().to_string().contains("is there already"));
    // what happens after the backup is not in it
    shop.change(&format!("/api/banks/{bank}/access"), &json!({"notes": {}})).await;
    let folder = tempfile::tempdir().unwrap();
    restore(&file, folder.path(), false, &indicatif::ProgressBar::hidden()).unwrap();
    let full = restore(&file, folder.path(), false, &indicatif::ProgressBar::hidden()).unwrap_err();
    assert!(full.to_string().contains("is not empty"), "{full}");
    let restored = Shop::open_in(folder).await;
    assert_eq!(restored.get(&format!("/api/banks/{bank}/export.json")).await, before);
    let odd = out.path().join("notes.txt");
    std::fs::write(&odd, "no backup").unwrap();
    let empty = tempfile::tempdir().unwrap();
    let said = restore(&odd, empty.path(), false, &indicatif::ProgressBar::hidden()).unwrap_err();
    assert!(said.to_string().contains("no backup of Rainshadow"), "{said}");
    assert!(
        write(&out.path().join("none"), &out.path().join("x.tar"))
            .unwrap_err()
            .to_string()
            .contains("no Rainshadow data")
    );
}
