//! The topic that reads the record of a monitor, controller or inverter.

use super::{CalcError, Topic, chosen_model, computed, schema};
use jiff::tz::TimeZone;
use rainshadow_core::bank::BankShape;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::charging_record::{
    ChargingRecordJudged, RecordSample, RecordedBank, Thinner, charging_record,
};
use rainshadow_core::diagnosis::ChargingRecord;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::wording;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// CR-1: a bank with the samples of its monitor.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct RecordAsked {
    /// How it is made up.
    shape: BankShape,
    /// Key of a generic model; flooded-6v-420 when neither is given.
    #[serde(default)]
    model_key: Option<String>,
    /// A whole model.
    #[serde(default)]
    model: Option<BatteryModel>,
    /// True where it stands on float day and night.
    #[serde(default)]
    standby: bool,
    /// Zone of the site by its name in the zone database; UTC when left out.
    #[serde(default)]
    zone: Option<String>,
    /// Samples, the oldest first; amperes are those into the bank.
    samples: Vec<RecordSample>,
}

/// What the record tells.
#[derive(Debug, Serialize, ToSchema)]
struct RecordSaid {
    /// The one sentence on top.
    said: String,
    /// The rest in words.
    lines: Vec<String>,
    /// Where its limits come from.
    rule: &'static str,
    /// Samples that lay before the one before them, and were left out.
    backwards: u64,
    /// Times that a counter of ampere-hours was set.
    counter_set: u64,
    /// As evidence of `diagnose`.
    evidence: ChargingRecord,
    /// The figures.
    #[serde(flatten)]
    judged: ChargingRecordJudged,
}

fn record_topic(input: RecordAsked) -> Result<RecordSaid, CalcError> {
    let model = chosen_model(input.model, input.model_key)?;
    let zone = input.zone.map_or(Ok(TimeZone::UTC), |name| {
        let why = format!("there is no zone \u{201c}{name}\u{201d}; accepted is a name of the zone database, as \u{201c}Etc/GMT-1\u{201d}");
        TimeZone::get(&name).map_err(|_e| CalcError::Impossible { path: "zone", why })
    })?;
    let shape =
        input.shape.checked().map_err(|e| CalcError::Impossible { path: "shape", why: e.to_string() })?;
    let bank = RecordedBank::of(&model, &shape, input.standby);
    let mut thin = Thinner::new(bank.c20);
    for (at, sample) in input.samples.iter().enumerate() {
        let odd =
            |(field, why)| CalcError::Input { path: format!("samples[{at}].{field}"), why: format!("{why}") };
        sample.checked().map_err(odd)?;
        thin.push(sample);
    }
    let (backwards, counter_set) = (thin.backwards, thin.counter_set);
    let judged = charging_record(&thin.rows(), &bank, &zone)
        .map_err(|e| CalcError::Impossible { path: "samples", why: e.to_string() })?;
    Ok(RecordSaid {
        said: wording::charging_record_verdict(&judged),
        lines: wording::charging_record_lines(&judged, &bank, ReaderUnits::default()),
        rule: wording::CHARGING_RECORD_RULE,
        backwards,
        counter_set,
        evidence: judged.evidence(),
        judged,
    })
}

pub(super) static TOPICS: [Topic; 1] = [Topic {
    name: "charging-record",
    about: "CR-1: what the record of a monitor tells: fulls, charge factor, depth and wear, gassing, held volts, standing draw",
    run: |bytes| computed(bytes, record_topic),
    schema: schema::<RecordAsked, RecordSaid>,
}];
