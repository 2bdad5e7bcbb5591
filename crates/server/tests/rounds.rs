//! Rounds over HTTP: taken, questioned, resumed, finished by one of two.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::{Shop, id, opening, reading};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

fn cell<'a>(page: &'a Value, address: &str) -> &'a Value {
    page["cells"].as_array().unwrap().iter().find(|c| c["view"]["cell"] == address).unwrap()
}

#[tokio::test(flavor = "multi_thread")]
async fn a_round_is_typed_judged_and_joins_the_history() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let round = shop.round(&bank).await;
    // the cart model is full at 1.277; the fifth cell is 52 points low and kept
    for (address, typed) in [
        ("A1-1", "277"),
        ("A1-2", "1.275"),
        ("A1-3", "1,276"),
        ("A2-1", "1277"),
        ("A2-2", "224"),
        ("A2-3", "276"),
    ] {
        let (status, saved) = shop.read(&round, address, typed).await;
        assert_eq!(status, StatusCode::CREATED, "{saved}");
    }
    let page = shop.get(&format!("/api/rounds/{round}")).await;
    assert_eq!(page["read"], 6);
    // six cells: asked at the end of the round
    assert_eq!(cell(&page, "A2-2")["view"]["condition"], "reread");
    assert!(page["verdict"].as_str().unwrap().starts_with("Re-read A2-2"), "{}", page["verdict"]);
    let entry = cell(&page, "A2-2")["entry"]["id"].as_str().unwrap();
    let mut kept = reading("A2-2", "224");
    kept["supersedes"] = json!(entry);
    kept["stands"] = json!(true);
    let (_, saved) = shop.put(&format!("/api/rounds/{round}/readings/{}", id()), &kept).await;
    assert_eq!(saved["question"], Value::Null);
    let (status, _) = shop.finish(&round, 1, "desk").await;
    assert_eq!(status, StatusCode::OK);
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    assert_eq!(page["verdict"], "Equalize with cell A2-2 as the pilot: it stands 52 points below the bank.");
    assert_eq!(page["condition"], "act");
    let line = &page["history"][0];
    assert_eq!((line["spread"].as_f64(), line["lowest_cell"].as_str()), (Some(53.0), Some("A2-2")));
    let own = shop.get(&format!("/api/banks/{bank}/cells/A2-2")).await;
    assert_eq!(own["points"][0]["deviation"], -52.0);
    let list = shop.get("/api/banks").await;
    assert_eq!(list[0]["condition"], "act");
}

#[tokio::test(flavor = "multi_thread")]
async fn the_same_entry_again_is_fine_and_the_same_id_with_another_body_is_not() {
    let shop = Shop::open().await;
    let round = shop.round(&shop.bank().await).await;
    let path = format!("/api/rounds/{round}/readings/{}", id());
    assert_eq!(shop.put(&path, &reading("A1-1", "265")).await.0, StatusCode::CREATED);
    assert_eq!(shop.put(&path, &reading("A1-1", "265")).await.0, StatusCode::OK);
    let (status, said) = shop.put(&path, &reading("A1-1", "266")).await;
    assert_eq!(status, StatusCode::CONFLICT);
    assert!(said["detail"].as_str().unwrap().contains("other contents"));
    let page = shop.get(&format!("/api/rounds/{round}")).await;
    assert_eq!(cell(&page, "A1-1")["entries"].as_array().unwrap().len(), 1);
}

#[tokio::test(flavor = "multi_thread")]
async fn what_is_in_memory_of_a_round_never_differs_from_what_is_stored() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let (round, other) = (shop.round(&bank).await, shop.round(&bank).await);
    let path = |round: &str, entry: &str| format!("/api/rounds/{round}/readings/{entry}");
    // an id that another round holds is refused, and the round goes on
    let taken = id();
    shop.put(&path(&round, &taken), &reading("A1-1", "277")).await;
    assert_eq!(shop.put(&path(&other, &taken), &reading("A1-2", "277")).await.0, StatusCode::CONFLICT);
    for (address, typed) in [("A1-2", "276"), ("A1-3", "277"), ("A2-1", "276"), ("A2-3", "277")] {
        shop.read(&round, address, typed).await;
    }
    // a re-read and an undo go through the same memory: the last cell is asked about against what stands
    let (_, first) = shop.read(&round, "A2-2", "220").await;
    assert!(first["question"].as_str().is_some(), "{first}");
    let mut undo = reading("A2-2", "");
    undo["kind"] = json!("withdrawn");
    undo["supersedes"] = first["id"].clone();
    shop.put(&path(&round, &id()), &undo).await;
    let (_, again) = shop.read(&round, "A2-2", "276").await;
    assert_eq!(again["question"], Value::Null, "{again}");
    // a bad cell in between changes nothing
    assert_eq!(shop.read(&round, "B9-1", "276").await.0, StatusCode::UNPROCESSABLE_ENTITY);
    let before = shop.get(&format!("/api/rounds/{round}")).await;
    let shop = Shop::open_in(shop.close().await).await;
    assert_eq!(shop.get(&format!("/api/rounds/{round}")).await, before);
}

#[tokio::test(flavor = "multi_thread")]
async fn bad_readings_name_field_fault_and_what_is_accepted() {
    let shop = Shop::open().await;
    let round = shop.round(&shop.bank().await).await;
    for (typed, part) in [
        ("abc", "is not a number"),
        ("12.65", "looks like volts"),
        ("0.9", "below the scale"),
        ("1.5", "above the scale"),
        ("NaN", "is not a number"),
        ("", "is empty"),
    ] {
        let (status, said) = shop.read(&round, "A1-1", typed).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
        assert_eq!(said["errors"][0]["field"], "typed");
        assert!(said["detail"].as_str().unwrap().contains(part), "{typed}: {said}");
    }
    let (status, said) = shop.read(&round, "B1-1", "265").await;
    assert_eq!(
        (status, said["errors"][0]["field"].as_str()),
        (StatusCode::UNPROCESSABLE_ENTITY, Some("cell"))
    );
    let (status, _) = shop.read(&id(), "A1-1", "265").await;
    assert_eq!(status, StatusCode::NOT_FOUND);
    let page = shop.get(&format!("/api/rounds/{round}")).await;
    assert_eq!(page["read"], 0, "nothing of it was stored");
}

#[tokio::test(flavor = "multi_thread")]
async fn an_opening_with_several_faults_names_all_of_them() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let mut body = opening(&bank);
    body["conditions"]["hours_since_charge"] = json!("yesterday");
    body["conditions"]["temperature"]["typed"] = json!("400");
    body["conditions"]["rest_volts"] = json!("-3");
    let (status, said) = shop.put(&format!("/api/rounds/{}", id()), &body).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    let fields: Vec<&str> =
        said["errors"].as_array().unwrap().iter().map(|e| e["field"].as_str().unwrap()).collect();
    assert_eq!(fields, ["hours_since_charge", "rest_volts", "temperature"]);
    assert!(said["detail"].as_str().unwrap().contains("-40 to 176 °F"));
}

#[tokio::test(flavor = "multi_thread")]
async fn undo_brings_the_reading_before_back() {
    let shop = Shop::open().await;
    let round = shop.round(&shop.bank().await).await;
    let (_, first) = shop.read(&round, "A1-1", "265").await;
    let mut second = reading("A1-1", "235");
    second["supersedes"] = first["id"].clone();
    let (_, second) = shop.put(&format!("/api/rounds/{round}/readings/{}", id()), &second).await;
    let page = shop.get(&format!("/api/rounds/{round}")).await;
    assert_eq!(page["undo"]["id"], second["id"]);
    let mut undo = reading("A1-1", "");
    undo["kind"] = json!("withdrawn");
    undo["supersedes"] = second["id"].clone();
    shop.put(&format!("/api/rounds/{round}/readings/{}", id()), &undo).await;
    let page = shop.get(&format!("/api/rounds/{round}")).await;
    assert_eq!(cell(&page, "A1-1")["entry"]["says"], "1.265");
    assert_eq!(cell(&page, "A1-1")["entries"].as_array().unwrap().len(), 3, "nothing is overwritten");
}

#[tokio::test(flavor = "multi_thread")]
async fn two_people_on_one_cell_are_both_kept_and_named() {
    let shop = Shop::open().await;
    let round = shop.round(&shop.bank().await).await;
    shop.read(&round, "A1-1", "265").await;
    let path = format!("/api/rounds/{round}/readings/{}", id());
    shop.put_by(("MO", "phone"), &path, &reading("A1-1", "260")).await;
    let page = shop.get(&format!("/api/rounds/{round}")).await;
    let entries = cell(&page, "A1-1")["entries"].as_array().unwrap();
    let said: Vec<(&str, &str, bool)> = entries
        .iter()
        .map(|e| {
            (e["says"].as_str().unwrap(), e["person"].as_str().unwrap(), e["standing"].as_bool().unwrap())
        })
        .collect();
    assert_eq!(said, [("1.265", "TA", true), ("1.260", "MO", true)]);
}

#[tokio::test(flavor = "multi_thread")]
async fn a_second_browser_finishing_the_same_round_is_shown_what_stands() {
    let shop = Shop::open().await;
    let round = shop.round(&shop.bank().await).await;
    shop.read(&round, "A1-1", "265").await;
    assert_eq!(shop.finish(&round, 1, "desk").await.0, StatusCode::OK);
    let (status, said) = shop.finish(&round, 1, "phone").await;
    assert_eq!(status, StatusCode::PRECONDITION_FAILED);
    assert!(said["detail"].as_str().unwrap().starts_with("TA on desk finished this round"), "{said}");
    assert_eq!(
        (said["theirs"]["finished"].as_bool(), said["theirs"]["read"].as_i64()),
        (Some(true), Some(1))
    );
    // the answer got lost: the same person on the same device may say it again
    assert_eq!(shop.finish(&round, 1, "desk").await.0, StatusCode::OK);
    let (status, _) = shop.send(Method::POST, &format!("/api/rounds/{round}/finish"), &json!({})).await;
    assert_eq!(status, StatusCode::PRECONDITION_REQUIRED);
}

#[tokio::test(flavor = "multi_thread")]
async fn the_preview_says_what_a_figure_would_mean_without_storing_it() {
    let shop = Shop::open().await;
    let round = shop.round(&shop.bank().await).await;
    shop.read(&round, "A1-1", "270").await;
    let path = |typed: &str| format!("/api/rounds/{round}/preview?cell=A1-2&typed={typed}");
    let view = shop.get(&path("265")).await;
    assert_eq!((view["corrected"].as_str(), view["deviation"].as_str()), (Some("1.265"), Some("−5")));
    assert_eq!(view["spread"], "5");
    assert!(shop.get(&path("12.65")).await["error"].as_str().unwrap().contains("volts"));
    let halfway = shop.get(&path("26")).await;
    assert_eq!(
        (halfway["read"].as_str(), halfway["error"].as_str()),
        (None, None),
        "still typing is no fault"
    );
    assert_eq!(shop.get(&format!("/api/rounds/{round}")).await["read"], 1);
}

#[tokio::test(flavor = "multi_thread")]
async fn conditions_put_right_are_kept_as_typed_and_judge_anew() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let round = shop.round(&bank).await;
    shop.read(&round, "A1-1", "265").await;
    let corrected = async || {
        let page = shop.get(&format!("/api/rounds/{round}")).await;
        (cell(&page, "A1-1")["view"]["gravity"].as_str().unwrap().to_owned(), page)
    };
    assert_eq!(corrected().await.0, "1.265", "77 °F is the reference");
    let mut body = opening(&bank);
    body["conditions"]["temperature"] = json!({"known": "per_battery", "batteries": [
        {"battery": "A1", "typed": "50", "unit": "F"}, {"battery": "A2", "typed": "59", "unit": "F"}]});
    let request = shop.request(Method::POST, &format!("/api/rounds/{round}/conditions"));
    let (status, said) =
        crate::common::answer(request.header("if-match", "\"1\"").json(&body).send().await.unwrap()).await;
    assert_eq!(status, StatusCode::OK, "{said}");
    let (gravity, page) = corrected().await;
    // 50 °F is 10 °C: 0.00072 · (10 − 25) = −0.0108
    assert_eq!(gravity, "1.254");
    assert_eq!(page["opened"]["conditions"]["temperature"], body["conditions"]["temperature"]);
    assert_eq!(cell(&page, "A1-1")["temperature"], "electrolyte 10 °C");
    assert_eq!(cell(&page, "A2-1")["temperature"], "electrolyte 15 °C");
    assert!(
        page["evidence"]
            .as_array()
            .unwrap()
            .iter()
            .any(|e| e["before"] == "10 to 15 °C by battery, corrected"),
        "{}",
        page["evidence"]
    );
}

#[tokio::test(flavor = "multi_thread")]
async fn a_sealed_bank_takes_no_round() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("agm-12v-100", 24, 2, 2).await;
    let (status, said) = shop.put(&format!("/api/rounds/{}", id()), &opening(&bank)).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(said["detail"].as_str().unwrap().contains("sealed"));
}

#[tokio::test(flavor = "multi_thread")]
async fn derived_rows_are_what_would_be_derived_anew() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    for step in 0..3 {
        let round = shop.round(&bank).await;
        for (i, address) in ["A1-1", "A1-2", "A1-3", "A2-1", "A2-2", "A2-3"].into_iter().enumerate() {
            shop.read(&round, address, &format!("{}", 270 - step * i32::try_from(i).unwrap())).await;
        }
        shop.finish(&round, 1, "desk").await;
    }
    // a late reading into the first round changes what the later ones are compared with
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    let oldest = page["history"][2]["round"].as_str().unwrap();
    shop.read(oldest, "A1-1", "240").await;
    let before = shop.get(&format!("/api/banks/{bank}")).await;
    let folder = shop.close().await;
    let db = rainshadow::db::Db::open(folder.path()).unwrap();
    let told = indicatif::ProgressBar::hidden();
    let judged = db.write_now(|tx| rainshadow::app::judge_rounds::rederive(tx, &told));
    assert_eq!(judged.unwrap(), 3);
    assert_eq!((told.position(), told.length()), (1, Some(1)), "banks are counted");
    drop(db);
    let shop = Shop::open_in(folder).await;
    assert_eq!(shop.get(&format!("/api/banks/{bank}")).await, before);
}
