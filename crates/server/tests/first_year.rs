//! A bank's first year over HTTP, as a technician lives it: the notebook, a baseline, a cell that goes
//! its own way, water at the wrong time, another house, an export at the end.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::{Shop, id, opening, reading};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

const CELLS: [&str; 12] =
    ["A1-1", "A1-2", "A1-3", "A2-1", "A2-2", "A2-3", "A3-1", "A3-2", "A3-3", "A4-1", "A4-2", "A4-3"];

/// Spoils one thing in a file.
type Spoil = fn(&mut Value);

/// Readings of a day, thousandths over 1.000, all cells alike but `A2-2`.
fn figures(mates: i32, weak: i32) -> Vec<(&'static str, String)> {
    CELLS
        .iter()
        .enumerate()
        .map(|(i, cell)| {
            let small = [0, 1, -1, 2][i % 4];
            let value = if *cell == "A2-2" { weak } else { mates + small };
            (*cell, value.to_string())
        })
        .collect()
}

struct Year {
    shop: Shop,
    bank: String,
}

impl Year {
    /// A round on a day: opened, walked, what is asked about let stand, finished. Its page.
    async fn round(
        &self,
        day: &str,
        readings: Vec<(&'static str, String)>,
        change: impl FnOnce(&mut Value),
    ) -> Value {
        let round = id();
        let mut body = opening(&self.bank);
        body["started_at"] = json!(format!("{day}T09:00:00Z"));
        change(&mut body["conditions"]);
        let (status, said) = self.shop.put(&format!("/api/rounds/{round}"), &body).await;
        assert_eq!(status, StatusCode::CREATED, "{said}");
        for (cell, typed) in readings {
            let mut entry = reading(cell, &typed);
            entry["taken_at"] = json!(format!("{day}T09:10:00Z"));
            let (_, saved) = self.shop.put(&format!("/api/rounds/{round}/readings/{}", id()), &entry).await;
            if saved["question"].is_string() {
                entry["stands"] = json!(true);
                entry["supersedes"] = saved["id"].clone();
                self.shop.put(&format!("/api/rounds/{round}/readings/{}", id()), &entry).await;
            }
        }
        assert_eq!(self.shop.finish(&round, 1, "desk").await.0, StatusCode::OK);
        self.shop.get(&format!("/api/rounds/{round}")).await
    }

    async fn page(&self) -> Value {
        self.shop.get(&format!("/api/banks/{}", self.bank)).await
    }
}

fn verdict(page: &Value) -> &str {
    page["verdict"].as_str().unwrap()
}

#[tokio::test(flavor = "multi_thread")]
async fn a_bank_lives_through_its_first_year() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("flooded-6v-225", 24, 4, 1).await;
    let year = Year { shop, bank };

    // before anything is read, the bank says so
    assert!(verdict(&year.page().await).starts_with("No round yet"));

    // the notebook: two rounds, one without a temperature
    let lines: Vec<String> = CELLS.iter().map(|c| format!("{c},276,275")).collect();
    let notebook = format!("cell,2025-09-20,2025-10-15\ntemperature,77 F,\n{}\n", lines.join("\n"));
    let path = format!("/api/banks/{}/notebook/{}", year.bank, id());
    assert_eq!(year.shop.csv(Method::PUT, &path, notebook).await.0, StatusCode::OK);
    let page = year.page().await;
    assert_eq!(page["history"].as_array().unwrap().len(), 2);
    assert!(
        page["doubts"]
            .as_array()
            .unwrap()
            .iter()
            .any(|d| d.as_str().unwrap().contains("temperature is not known"))
    );

    // the baseline: even, full
    let first = year.round("2025-11-20", figures(276, 276), |_| ()).await;
    assert!(verdict(&first).starts_with("The bank is even"), "{}", verdict(&first));

    // A2-2 goes its own way, eight points a round
    for (day, weak) in [("2026-01-20", 268), ("2026-03-20", 260), ("2026-05-20", 252)] {
        year.round(day, figures(276, weak), |_| ()).await;
    }
    let spring = year.page().await;
    // 276 − 252 = 24 points: watched by Maker first, whose spread acts from 30
    assert_eq!(spring["condition"], "watch", "{}", verdict(&spring));
    assert!(spring["findings"].as_array().unwrap().iter().any(|f| f["headline"] == "A2-2 stands alone"));

    // somebody topped up before the round: kept, not judged, and no part of the story
    let wet = year.round("2026-06-20", figures(262, 240), |c| c["water_added"] = json!("yes")).await;
    assert!(verdict(&wet).starts_with("Kept, not judged"), "{}", verdict(&wet));
    let line = year.shop.get(&format!("/api/banks/{}/cells/A2-2", year.bank)).await;
    assert!(
        line["points"].as_array().unwrap().iter().all(|p| p["gravity"].as_f64().unwrap() > 1.245),
        "{line}"
    );

    // midsummer, by hand: the median of the twelve is 276.5, 32.5 over 244. The gap passes 25 points, the cell sinks, and half the suspect limit is enough
    let summer = year.round("2026-07-20", figures(276, 244), |_| ()).await;
    assert_eq!(
        verdict(&summer),
        "Equalize with cell A2-2 as the pilot: it has sunk 33 points below the bank, and the gap has grown for 4 months."
    );

    // another house would wait, and says so before it is asked
    let others: Vec<&str> =
        summer["findings"].as_array().unwrap().iter().map(|f| f["others"].as_str().unwrap()).collect();
    assert!(others.iter().any(|o| o.contains("Light touch would watch it")), "{others:?}");
    year.shop
        .change(&format!("/api/banks/{}/house-rules", year.bank), &json!({"rules": "light_touch"}))
        .await;
    let lighter = year.page().await;
    assert_eq!(lighter["house"], "Light touch");
    assert!(
        lighter["findings"]
            .as_array()
            .unwrap()
            .iter()
            .all(|f| !f["rule"].as_str().unwrap().contains("Maker first"))
    );
    year.shop
        .change(&format!("/api/banks/{}/house-rules", year.bank), &json!({"rules": "maker_first"}))
        .await;
    assert_eq!(verdict(&year.page().await), verdict(&summer), "the same readings, the same judgement");

    // the year goes along to another machine and says the same there
    let file = year.shop.get(&format!("/api/banks/{}/export.json", year.bank)).await;
    let other = Shop::open().await;
    assert_eq!(other.send(Method::POST, "/api/import", &file).await.0, StatusCode::OK);
    let there = other.get(&format!("/api/banks/{}", year.bank)).await;
    let here = year.page().await;
    for part in ["verdict", "findings", "history", "cells", "evidence", "doubts"] {
        assert_eq!(there[part], here[part], "{part}");
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn one_round_goes_along_alone_where_its_bank_is_known() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("flooded-6v-225", 24, 4, 1).await;
    let year = Year { shop, bank };
    let empty = year.shop.get(&format!("/api/banks/{}/export.json", year.bank)).await;
    let round = year.round("2026-07-20", figures(276, 244), |_| ()).await;
    let file = year.shop.get(&format!("/api/rounds/{}/export.json", round["id"].as_str().unwrap())).await;
    assert_eq!(file["format"], "rainshadow-round/1");
    let other = Shop::open().await;
    let (status, said) = other.send(Method::POST, "/api/import", &file).await;
    assert_eq!(status, StatusCode::NOT_FOUND, "the bank comes first: {said}");
    other.send(Method::POST, "/api/import", &empty).await;
    let (status, done) = other.send(Method::POST, "/api/import", &file).await;
    assert_eq!((status, done["new"].as_bool()), (StatusCode::OK, Some(true)), "{done}");
    let there = other.get(&format!("/api/rounds/{}", round["id"].as_str().unwrap())).await;
    for part in ["verdict", "cells", "findings", "opened", "day"] {
        assert_eq!(there[part], round[part], "{part}");
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn a_file_that_was_tampered_with_is_refused_whole_and_names_what_does_not_fit() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("flooded-6v-225", 24, 4, 1).await;
    let year = Year { shop, bank };
    year.round("2026-07-20", figures(276, 276), |_| ()).await;
    let good = year.shop.get(&format!("/api/banks/{}/export.json", year.bank)).await;
    let cases: [(Spoil, &str); 7] = [
        (|f| f["rounds"][0]["readings"][3]["gravity"] = json!(12.65), "rounds[0].readings[3].gravity"),
        (|f| f["rounds"][0]["readings"][3]["cell"] = json!("somewhere"), "rounds[0].readings[3].cell"),
        (|f| f["rounds"][0]["instrument"]["kind"] = json!("stick"), "rounds[0].instrument.kind"),
        (|f| f["bank"]["shape"]["series"] = json!(5), "bank.shape"),
        (|f| f["model"]["figures"]["full_gravity"] = json!(1.02), "model.figures.full_gravity"),
        (|f| f["blocks"].as_array_mut().unwrap().truncate(2), "blocks"),
        (|f| f["rounds"][0]["started_at"] = json!("noon"), "rounds[0].started_at"),
    ];
    for (spoil, field) in cases {
        let mut file = good.clone();
        spoil(&mut file);
        let other = Shop::open().await;
        let (status, said) = other.send(Method::POST, "/api/import", &file).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{field}: {said}");
        assert!(said["errors"][0]["field"].as_str().unwrap().ends_with(field), "{field}: {said}");
        assert_eq!(other.get("/api/meta").await["empty"], true, "nothing of it was kept");
    }
}
