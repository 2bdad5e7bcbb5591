//! Who reads: units by person, the open description of the interface, and requests that do not fit.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::readers::{as_person, imperial};
use crate::common::{Shop, answer, id, opening, reading};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

#[tokio::test(flavor = "multi_thread")]
async fn a_person_is_remembered_and_changed() {
    let shop = Shop::open().await;
    let person = imperial(&shop).await;
    let all = shop.get("/api/people").await;
    assert_eq!((all[0]["initials"].as_str(), all[0]["theme"].as_str()), (Some("MO"), Some("shed")));
    assert_eq!(all[0]["units"]["temperature"], "F");
    let body = json!({"initials": "mop", "single_keys": true});
    let path = format!("/api/people/{person}");
    let (status, said) = shop.put(&path, &body).await;
    assert_eq!(status, StatusCode::PRECONDITION_REQUIRED, "{said}");
    assert_eq!(shop.change(&path, &body).await.0, StatusCode::NO_CONTENT);
    // the same again, by whoever lost the answer, needs no version
    assert_eq!(shop.put(&path, &body).await.0, StatusCode::NO_CONTENT);
    let late = shop.request(Method::PUT, &path).header("if-match", "\"1\"");
    let other = json!({"initials": "mo", "single_keys": true});
    let (status, said) = answer(late.json(&other).send().await.unwrap()).await;
    assert_eq!(
        (status, &said["theirs"]["initials"]),
        (StatusCode::PRECONDITION_FAILED, &json!("MOP")),
        "{said}"
    );
    let all = shop.get("/api/people").await;
    assert_eq!(
        (all.as_array().unwrap().len(), all[0]["initials"].as_str()),
        (2, Some("MOP")),
        "TA is known too"
    );
    assert_eq!(all[0]["units"]["temperature"], "C", "left out is metric");
}

#[tokio::test(flavor = "multi_thread")]
async fn the_same_round_is_said_to_each_in_their_own_units() {
    let shop = Shop::open().await;
    let person = imperial(&shop).await;
    let bank = shop.bank().await;
    let round = shop.round(&bank).await;
    for (cell, typed) in [("A1-1", "270"), ("A1-2", "271"), ("A1-3", "270")] {
        shop.read(&round, cell, typed).await;
    }
    let path = format!("/api/rounds/{round}");
    let corrected = |page: &Value| page["corrected"].as_str().unwrap().to_owned();
    assert_eq!(corrected(&shop.get(&path).await), "corrected to 25 °C");
    assert_eq!(corrected(&as_person(&shop, &person, &path).await), "corrected to 77 °F");
    // nobody in particular, and somebody who is not known here, read metric
    assert_eq!(corrected(&as_person(&shop, &id(), &path).await), "corrected to 25 °C");
    let models = as_person(&shop, &person, "/api/models").await;
    assert_eq!(models[0]["reference"], "77 °F");
    assert!(models[0]["acid"].as_str().unwrap().ends_with("US gal"));
    assert!(models[0]["mark_height"].as_str().unwrap().ends_with(" in"));
    assert_eq!(models[0]["typed"]["acid_volume"]["unit"], "us_gallon", "offered for typing in the same unit");
    // what is finished is answered in the units of who finishes
    let request = shop
        .request(Method::POST, &format!("{path}/finish"))
        .header("if-match", "\"1\"")
        .header("rainshadow-person", &person);
    assert_eq!(corrected(&answer(request.send().await.unwrap()).await.1), "corrected to 77 °F");
}

#[tokio::test(flavor = "multi_thread")]
async fn the_years_of_a_bank_are_told_to_each_in_their_own_units() {
    let shop = Shop::open().await;
    let person = imperial(&shop).await;
    let bank = shop.bank_of("flooded-6v-420", 6, 1, 1).await;
    let visit = shop.visit(&bank).await;
    let low = json!({"kind": "level", "typed": "20", "unit": "millimetre"});
    shop.said(&visit, "", low).await;
    let round = shop.round(&bank).await;
    for cell in ["A1-1", "A1-2", "A1-3"] {
        shop.read_kept(&round, cell, "1295").await;
    }
    assert_eq!(shop.finish(&round, 1, "desk").await.0, StatusCode::OK);
    let verdict = |page: &Value| page["history"][0]["verdict"].as_str().unwrap().to_owned();
    let path = format!("/api/banks/{bank}");
    // the mark lies 40 mm over the plates
    assert!(verdict(&shop.get(&path).await).contains("up to 20 mm under the mark"));
    let own = verdict(&as_person(&shop, &person, &path).await);
    assert!(own.contains("up to 0.79 in under the mark"), "{own}");
}

#[tokio::test(flavor = "multi_thread")]
async fn every_operation_is_described_with_its_answers_and_its_problem() {
    let shop = Shop::open().await;
    let document = shop.get("/api/openapi.json").await;
    let mut operations = std::collections::BTreeSet::new();
    for (path, item) in document["paths"].as_object().unwrap() {
        for (method, operation) in item.as_object().unwrap() {
            let name = operation["operationId"].as_str().unwrap();
            assert!(operations.insert(name.to_owned()), "{name} stands twice");
            assert!(operation["summary"].as_str().is_some_and(|s| !s.is_empty()), "{method} {path}");
            let responses = operation["responses"].as_object().unwrap();
            assert!(responses.keys().any(|k| k.starts_with('2')), "{method} {path}");
            for (status, response) in responses {
                let is_failure = !status.starts_with('2');
                let names = response["$ref"] == "#/components/responses/Problem";
                assert_eq!(is_failure, names, "{method} {path} {status}");
                assert!(names || !response["description"].as_str().unwrap().is_empty());
            }
        }
    }
    for expected in
        ["put_reading", "preview_reading", "check_notebook", "import_file", "edit_bank", "put_model"]
    {
        assert!(operations.contains(expected), "{expected}");
    }
    let problem = &document["components"]["responses"]["Problem"]["content"];
    assert!(problem["application/problem+json"].is_object(), "{problem}");
    // every reference leads somewhere
    let text = document.to_string();
    let schemas = document["components"]["schemas"].as_object().unwrap();
    for name in text.split("#/components/schemas/").skip(1).map(|rest| rest.split('"').next().unwrap()) {
        assert!(schemas.contains_key(name), "{name}");
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn what_is_not_there_is_said_as_a_problem_that_names_it() {
    let shop = Shop::open().await;
    let missing = id();
    for (method, path) in [
        (Method::GET, format!("/api/banks/{missing}")),
        (Method::GET, format!("/api/rounds/{missing}")),
        (Method::GET, format!("/api/rounds/{missing}/preview?cell=A1-1&typed=265")),
        (Method::GET, format!("/api/banks/{missing}/export.json")),
        (Method::GET, format!("/api/banks/{missing}/export.csv")),
        (Method::GET, format!("/api/rounds/{missing}/export.csv")),
        (Method::GET, format!("/api/rounds/{missing}/export.json")),
        (Method::GET, format!("/api/banks/{missing}/cells/A1-1")),
        (Method::POST, format!("/api/banks/{missing}/archive")),
        (Method::DELETE, format!("/api/banks/{missing}")),
    ] {
        let response = shop.request(method.clone(), &path).send().await.unwrap();
        assert_eq!(response.headers()["content-type"], "application/problem+json", "{method} {path}");
        let (status, said) = answer(response).await;
        assert_eq!((status, said["status"].as_i64()), (StatusCode::NOT_FOUND, Some(404)), "{method} {path}");
        assert!(said["detail"].as_str().unwrap().contains(&missing), "{said}");
    }
    for path in ["/api/banks/17", "/api/rounds/not-an-id", "/api/rounds/17/preview?cell=A1-1&typed=1"] {
        let (status, said) = answer(shop.request(Method::GET, path).send().await.unwrap()).await;
        assert_eq!(
            (status, said["errors"][0]["field"].as_str()),
            (StatusCode::UNPROCESSABLE_ENTITY, Some("id"))
        );
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn an_address_that_is_none_and_a_cell_the_bank_has_not_are_told_apart() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    for (cell, part) in
        [("Z", "is not an address"), ("A1", "is not an address"), ("A9-1", "A9-1"), ("C1-1", "C1-1")]
    {
        let path = format!("/api/banks/{bank}/cells/{cell}");
        let (status, said) = answer(shop.request(Method::GET, &path).send().await.unwrap()).await;
        assert_eq!(
            (status, said["errors"][0]["field"].as_str()),
            (StatusCode::UNPROCESSABLE_ENTITY, Some("cell")),
            "{cell}"
        );
        assert!(said["detail"].as_str().unwrap().contains(part), "{cell}: {said}");
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn times_that_cannot_be_are_refused() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let mut body = opening(&bank);
    for (at, part) in [("yesterday", "is no time"), ("2099-01-01T00:00:00Z", "lies in the future")] {
        body["started_at"] = json!(at);
        let (status, said) = shop.put(&format!("/api/rounds/{}", id()), &body).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
        assert_eq!(said["errors"][0]["field"], "started_at");
        assert!(said["detail"].as_str().unwrap().contains(part), "{said}");
    }
    let round = shop.round(&bank).await;
    let mut late = reading("A1-1", "265");
    late["taken_at"] = json!("2099-01-01T00:00:00Z");
    let (_, said) = shop.put(&format!("/api/rounds/{round}/readings/{}", id()), &late).await;
    assert_eq!(said["errors"][0]["field"], "taken_at");
}

#[tokio::test(flavor = "multi_thread")]
async fn a_custom_instrument_out_of_range_is_named() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let mut body = opening(&bank);
    body["instrument"]["resolution"] = json!(0.0);
    let (status, said) = shop.put(&format!("/api/rounds/{}", id()), &body).await;
    assert_eq!(
        (status, said["errors"][0]["field"].as_str()),
        (StatusCode::UNPROCESSABLE_ENTITY, Some("instrument"))
    );
    assert!(said["detail"].as_str().unwrap().contains("0.1 to 20.0 points"), "{said}");
}
