//! The interface as it is documented: the document is valid, and requests made from it, right, wrong and
//! extreme, are answered as it says.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::{Shop, id};
use proptest::prelude::*;
use proptest::strategy::ValueTree;
use proptest::test_runner::{Config, TestRng, TestRunner};
use reqwest::{Method, StatusCode};
use roas::v3_1::spec::Spec;
use roas::validation::{Options, Validate};
use serde_json::{Map, Value, json};
use std::time::{Duration, Instant};

/// Requests made of one operation.
const EACH: u32 = 40;
/// Slower than this is no answer; only an upper limit that no machine comes near.
const SLOW: Duration = Duration::from_secs(10);

#[tokio::test(flavor = "multi_thread")]
async fn the_document_is_valid_openapi() {
    let shop = Shop::open().await;
    let document = shop.get("/api/openapi.json").await;
    assert_eq!(document["openapi"], "3.1.0");
    let spec: Spec = serde_json::from_value(document.clone()).unwrap();
    spec.validate(Options::IgnoreMissingTags | Options::IgnoreUnusedSchemas, None).unwrap();
    // what the validator does not ask: ids are described, and every operation says who is let in
    for (path, operations) in document["paths"].as_object().unwrap() {
        for (method, operation) in operations.as_object().unwrap() {
            for parameter in operation["parameters"].as_array().into_iter().flatten() {
                let is_id = parameter["in"] == "path" && parameter["name"] == "id";
                assert!(!is_id || parameter["schema"]["format"] == "uuid", "{method} {path}");
            }
        }
    }
    assert!(
        document["components"]["securitySchemes"]["device"].is_object() && document["security"].is_array()
    );
}

/// The schema that a reference leads to.
fn resolved<'a>(document: &'a Value, schema: &'a Value) -> &'a Value {
    match schema["$ref"].as_str() {
        Some(name) => resolved(document, document.pointer(name.trim_start_matches('#')).unwrap()),
        None => schema,
    }
}

/// Something of every kind that is not what a field wants.
fn odd() -> impl Strategy<Value = Value> {
    prop_oneof![
        Just(Value::Null),
        Just(json!(true)),
        Just(json!(-1)),
        Just(json!(1e300)),
        Just(json!(i64::MIN)),
        Just(json!("")),
        Just(json!("\u{0}\r\n\u{202e}💥")),
        Just(json!("9999-12-31T23:59:59Z")),
        Just(json!("0000-00-00")),
        Just(json!("../../etc/passwd")),
        Just(json!("1265")),
        Just(json!("A1-1")),
        Just(json!([])),
        Just(json!({})),
        Just(json!({"kind": "ghost"})),
        ".{0,300}".prop_map(Value::from),
        (4000usize..9000).prop_map(|n| json!("x".repeat(n))),
        any::<f64>().prop_map(|f| json!(f)),
        any::<i64>().prop_map(|n| json!(n)),
    ]
}

/// What is known in the shop, for requests that reach further than "no such thing".
struct Known {
    bank: String,
    round: String,
    visit: String,
    run: String,
}

impl Known {
    /// A likely value for a field of this name.
    fn likely(&self, name: &str) -> Option<Value> {
        Some(match name {
            "bank" => json!(self.bank),
            "round" => json!(self.round),
            "visit" => json!(self.visit),
            "initials" => json!("TA"),
            "cell" | "pilot" => json!("A1-1"),
            "battery" | "place" => json!("A1"),
            "zone" => json!("UTC"),
            "model" => json!("flooded-6v-225"),
            "rules" | "from" => json!("maker_first"),
            "taken_at" | "started_at" => json!("2026-10-08T09:00:00Z"),
            "day" => json!("2026-10-08"),
            "until" => json!("2026-11-08"),
            "typed" | "gravity" => json!("265"),
            "name" | "text" | "reason" => json!("said by somebody"),
            "unit" => json!("C"),
            _ => return None,
        })
    }

    fn id(&self, path: &str) -> &str {
        let of = [("/rounds/", &self.round), ("/visits/", &self.visit), ("/runs/", &self.run)];
        of.iter().find(|(part, _)| path.contains(part)).map_or(self.bank.as_str(), |(_, id)| id.as_str())
    }
}

/// One generator with its chances.
struct Maker<'a> {
    document: &'a Value,
    known: &'a Known,
    runner: TestRunner,
}

impl Maker<'_> {
    fn draw<S: Strategy>(&mut self, strategy: S) -> S::Value {
        strategy.new_tree(&mut self.runner).unwrap().current()
    }

    fn one_in(&mut self, n: u32) -> bool {
        self.draw(0..n) == 0
    }

    /// A value of a schema, now and then something else.
    fn value(&mut self, schema: &Value, name: &str, depth: u32) -> Value {
        if self.one_in(9) || depth > 6 {
            return self.draw(odd());
        }
        let schema = resolved(self.document, schema);
        for several in ["oneOf", "anyOf"] {
            if let Some(all) = schema[several].as_array() {
                let which = self.draw(0..all.len());
                return self.value(&all[which], name, depth + 1);
            }
        }
        if let Some(all) = schema["allOf"].as_array() {
            let mut merged = Map::new();
            for part in all {
                if let Value::Object(own) = self.value(part, name, depth + 1) {
                    merged.extend(own);
                }
            }
            return Value::Object(merged);
        }
        if let Some(all) = schema["enum"].as_array() {
            let which = self.draw(0..all.len());
            return all[which].clone();
        }
        if let Some(likely) = self.known.likely(name).filter(|_| depth < 4)
            && !self.one_in(5)
        {
            return likely;
        }
        let kind = schema["type"].as_str().or_else(|| {
            schema["type"].as_array().and_then(|t| t.iter().find_map(|k| k.as_str().filter(|k| *k != "null")))
        });
        match kind {
            Some("object") => {
                let mut object = Map::new();
                for (field, own) in schema["properties"].as_object().into_iter().flatten() {
                    let required =
                        schema["required"].as_array().is_some_and(|r| r.iter().any(|n| n == field));
                    if (required && !self.one_in(25)) || self.one_in(2) {
                        object.insert(field.clone(), self.value(own, field, depth + 1));
                    }
                }
                Value::Object(object)
            }
            Some("array") => {
                let count = self.draw(0..4u32);
                (0..count).map(|_| self.value(&schema["items"], name, depth + 1)).collect()
            }
            Some("integer") => self.draw(prop_oneof![Just(json!(1)), (0..400i64).prop_map(|n| json!(n))]),
            Some("number") => {
                self.draw(prop_oneof![Just(json!(1.25)), (-10.0..700.0f64).prop_map(|n| json!(n))])
            }
            Some("boolean") => json!(self.one_in(2)),
            Some("string") => {
                self.draw(prop_oneof![Just(json!("12.4")), "[ -~]{0,30}".prop_map(Value::from)])
            }
            _ => self.draw(odd()),
        }
    }

    /// The address of an operation with its places filled.
    fn address(&mut self, path: &str, operation: &Value) -> String {
        let mut address = path.to_owned();
        let mut query: Vec<(String, String)> = Vec::new();
        for parameter in operation["parameters"].as_array().into_iter().flatten() {
            let name = parameter["name"].as_str().unwrap();
            match parameter["in"].as_str().unwrap() {
                "path" => {
                    let known = match name {
                        "id" => self.known.id(path).to_owned(),
                        "cell" => "A1-1".into(),
                        "key" => "own-set".into(),
                        _ => id(),
                    };
                    let value = if self.one_in(5) {
                        self.draw("[a-zA-Z0-9%_-][a-zA-Z0-9%._-]{0,39}")
                    } else if self.one_in(4) {
                        id()
                    } else {
                        known
                    };
                    address = address.replace(&format!("{{{name}}}"), &value.replace('%', "%25"));
                }
                "query" if self.one_in(2) || parameter["required"] == true => {
                    let schema = parameter["schema"].clone();
                    let text = match self.value(&schema, name, 3) {
                        Value::String(text) => text,
                        other => other.to_string(),
                    };
                    query.push((name.to_owned(), text.chars().take(2000).collect()));
                }
                _ => {}
            }
        }
        if query.is_empty() {
            return address;
        }
        let pairs = reqwest::Url::parse_with_params("http://x/", &query).unwrap();
        format!("{address}?{}", pairs.query().unwrap_or_default())
    }
}

async fn known(shop: &Shop) -> Known {
    let bank = shop.bank().await;
    crate::common::runs::read_bank(shop, &bank, "1240").await;
    let run = crate::common::runs::begun(shop, &bank).await;
    let visit = shop.get(&format!("/api/runs/{run}")).await["visit"].as_str().unwrap().to_owned();
    let round = shop.round(&bank).await;
    Known { bank, round, visit, run }
}

#[tokio::test(flavor = "multi_thread")]
async fn requests_of_every_operation_right_wrong_and_extreme_are_answered_as_documented() {
    let shop = Shop::open().await;
    let document = shop.get("/api/openapi.json").await;
    let known = known(&shop).await;
    // the same requests every time
    let rng = TestRng::deterministic_rng(proptest::test_runner::RngAlgorithm::ChaCha);
    let mut maker = Maker {
        document: &document,
        known: &known,
        runner: TestRunner::new_with_rng(Config::default(), rng),
    };
    let (mut sent, mut taken) = (0, 0);
    for (path, operations) in document["paths"].as_object().unwrap() {
        for (method, operation) in operations.as_object().unwrap() {
            // what ends the bank that everything else is about comes by other tests
            if matches!(operation["operationId"].as_str(), Some("archive_bank" | "delete_bank" | "load_demo"))
            {
                continue;
            }
            let method: Method = method.to_uppercase().parse().unwrap();
            let body = &operation["requestBody"]["content"];
            for turn in 0..EACH {
                let address = maker.address(path, operation);
                let mut request = shop.request(method.clone(), &address);
                if maker.one_in(2) {
                    request = request.header("if-match", format!("\"{}\"", maker.draw(0..4u32)));
                }
                let mut what = String::new();
                if let Some(content) = body.as_object() {
                    let schema = content.get("application/json").map(|c| c["schema"].clone());
                    what = match schema {
                        Some(schema) => maker.value(&schema, "", 0).to_string(),
                        None => maker.draw("[ -~\n]{0,200}"),
                    };
                    if maker.one_in(15) {
                        what = what.chars().take(what.chars().count() / 2).collect();
                    }
                    request = request.header("content-type", "application/json").body(what.clone());
                }
                let begun = Instant::now();
                let answer = request.send().await.unwrap();
                let (status, took) = (answer.status(), begun.elapsed());
                let kind = answer
                    .headers()
                    .get("content-type")
                    .and_then(|v| v.to_str().ok())
                    .unwrap_or_default()
                    .to_owned();
                let text = answer.text().await.unwrap();
                let case = format!(
                    "{method} {address} ({turn}) {} -> {status} {}",
                    what.chars().take(600).collect::<String>(),
                    text.chars().take(300).collect::<String>()
                );
                assert!(!status.is_server_error(), "{case}");
                assert!(operation["responses"].get(status.as_str()).is_some(), "undocumented: {case}");
                assert!(took < SLOW, "{took:?}: {case}");
                if status.is_client_error() {
                    assert_eq!(kind, "application/problem+json", "{case}");
                    let problem: Value = serde_json::from_str(&text).unwrap();
                    assert_eq!(problem["status"], status.as_u16(), "{case}");
                }
                sent += 1;
                taken += u32::from(status.is_success());
            }
        }
    }
    assert!(sent > 2000 && taken > sent / 20, "{taken} of {sent} were taken");
    // after all that the shop still answers and is sound
    assert_eq!(shop.request(Method::GET, "/api/today").send().await.unwrap().status(), StatusCode::OK);
    let folder = shop.close().await;
    let found = rainshadow::doctor::look(folder.path()).unwrap();
    assert!(found.faults.is_empty(), "{:?}", found.faults);
}
