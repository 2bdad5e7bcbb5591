//! Topics of a whole bank.

use super::{CalcError, Topic, assess_round, computed, schema};
use jiff::civil::Date;
use rainshadow_core::bank_state::{BankKnown, BankState};
use rainshadow_core::charge::SettingsAudit;
use rainshadow_core::equipment::EquipmentJudged;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::rest::{RestSheet, judge_rest};
use rainshadow_core::round::RoundToJudge;
use rainshadow_core::schedule::{BankFacts, equipment_findings};
use rainshadow_core::water::Uneven;
use rainshadow_core::wording::{self, DueReader, SpokenFinding};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// The last volts of a bank.
#[derive(Debug, Deserialize, ToSchema)]
struct RestOn {
    /// Their day.
    #[schema(value_type = String)]
    day: Date,
    /// The sheet.
    sheet: RestSheet,
}

/// Everything known of a bank.
#[derive(Debug, Deserialize, ToSchema)]
struct KnownOfBank {
    /// Today.
    #[schema(value_type = String)]
    today: Date,
    /// What its due items are worked out from, with what is open by eye, volts and runs.
    facts: BankFacts,
    /// The last round.
    #[serde(default)]
    round: Option<RoundToJudge>,
    /// The last volts.
    #[serde(default)]
    rest: Option<RestOn>,
    /// Cells that drink unlike their mates.
    #[serde(default)]
    uneven: Vec<Uneven>,
    /// What the charger is set to, judged.
    #[serde(default)]
    charger: Option<SettingsAudit>,
}

/// The state of a bank with its sentences.
#[derive(Debug, Serialize, ToSchema)]
struct StateSaid {
    /// The one sentence on top.
    verdict: String,
    /// The findings in words, what leads first.
    findings: Vec<SpokenFinding>,
    /// The state.
    state: BankState,
}

fn bank_state(input: KnownOfBank) -> Result<StateSaid, CalcError> {
    let shape = input.facts.shape.clone().checked();
    shape.map_err(|e| CalcError::Impossible { path: "facts.shape", why: e.to_string() })?;
    let round = input.round.map(assess_round).transpose()?.map(|judged| judged.assessment);
    let rest = input.rest.map(|rest| (rest.day, judge_rest(&rest.sheet)));
    let charger = input.charger.map(|audit| (input.today, EquipmentJudged::of_charger(audit)));
    let mut facts = input.facts;
    facts.findings.extend(equipment_findings(charger.as_slice(), None));
    let state = BankState::of(&BankKnown {
        facts: &facts,
        round: round.as_ref(),
        rest: rest.as_ref().map(|(day, judged)| (*day, judged)),
        uneven: &input.uneven,
    });
    let reader = DueReader {
        construction: facts.model.construction,
        cells: facts.shape.cell_count(),
        today: input.today,
        units: ReaderUnits::default(),
    };
    Ok(StateSaid {
        verdict: wording::bank_verdict(&state, &reader),
        findings: wording::speak_all(&state.findings, ReaderUnits::default()),
        state,
    })
}

pub(super) static TOPICS: [Topic; 1] = [Topic {
    name: "bank-state",
    about: "RD-8: everything known of a bank merged: condition, findings, what is due",
    run: |bytes| computed(bytes, bank_state),
    schema: schema::<KnownOfBank, StateSaid>,
}];
