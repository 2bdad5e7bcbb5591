//! The page of what stands at a bank: what charges it, judged, its air, fittings and place.

use crate::app::charger::ASSUMED;
use crate::app::equalize_context::EqualizeContext;
use crate::app::typed::equipment::{TypedEquipment, typed_equipment};
use rainshadow_core::charge::SettingsAudit;
use rainshadow_core::charge::charge_limits;
use rainshadow_core::equipment::{FittingKind, SourceKind, Surroundings, judge_equipment};
use rainshadow_core::finding::RuleId;
use rainshadow_core::quantity::Temperature;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::severity::Severity;
use rainshadow_core::wording;
use serde::Serialize;
use utoipa::ToSchema;

/// One stage of a charger in words.
#[derive(Debug, Serialize, ToSchema)]
pub struct StageLine {
    /// "absorption".
    pub stage: &'static str,
    /// What it is set to, V.
    pub set: String,
    /// What it should be, V; empty: it should be off, or nothing is judged.
    pub wanted: String,
    /// What to type, V.
    pub to_type: String,
    /// In words.
    pub said: String,
    /// How it stands.
    pub condition: Severity,
}

/// An audit in words.
#[derive(Debug, Serialize, ToSchema)]
pub struct AuditView {
    /// The sentence on top.
    pub verdict: String,
    /// How it stands.
    pub condition: Severity,
    /// Stage by stage.
    pub stages: Vec<StageLine>,
    /// At which temperature.
    pub at: String,
    /// Rule, tolerance, source.
    pub rule: String,
}

impl AuditView {
    /// An audit as said.
    pub fn of(audit: &SettingsAudit, at: Temperature, units: ReaderUnits, house: &str) -> Self {
        let volts = |v: Option<f64>| v.map(|v| format!("{v:.1}")).unwrap_or_default();
        Self {
            verdict: wording::audit_verdict(audit),
            condition: audit.condition,
            stages: audit
                .stages
                .iter()
                .map(|s| StageLine {
                    stage: s.stage.word(),
                    set: format!("{:.1}", s.set),
                    wanted: volts(s.wanted),
                    to_type: volts(s.to_type),
                    said: wording::audited_stage(s),
                    condition: s.condition,
                })
                .collect(),
            at: units.say_temperature(at),
            rule: format!(
                "CH-3: fine within 0.03 V a cell (float 0.02), act beyond 0.06 (float 0.04). {}. {house}Maker’s manual first.",
                wording::sentence(RuleId::Ch3.source())
            ),
        }
    }
}

/// One source of charge as judged.
#[derive(Debug, Serialize, ToSchema)]
pub struct SourceView {
    /// "Alternator, engine, 90 A: absorption 14.4 V".
    pub said: String,
    /// What its settings do at the temperature of the last round; none: nothing told.
    pub now: Option<AuditView>,
}

/// A choice of the form.
#[derive(Debug, Serialize, ToSchema)]
pub struct EquipmentChoice {
    /// What is sent.
    pub value: String,
    /// What is read.
    pub label: String,
}

/// A word with what it means for the work.
#[derive(Debug, Serialize, ToSchema)]
pub struct Meaning {
    /// "beside an engine".
    pub name: String,
    /// What it means.
    pub meaning: String,
}

/// What stands at a bank.
#[derive(Debug, Serialize, ToSchema)]
pub struct EquipmentPage {
    /// As typed.
    pub equipment: TypedEquipment,
    /// For If-Match; 0: nothing was told yet.
    pub version: i64,
    /// Who told it last.
    pub person: String,
    /// The first charger; none: not told.
    pub first: Option<SourceView>,
    /// Its settings as judged in the cold and in the heat that the site has, where they are judged otherwise.
    pub seasons: Vec<AuditView>,
    /// What else charges the bank.
    pub others: Vec<SourceView>,
    /// Within what it is charged, line by line.
    pub limits: Vec<Meaning>,
    /// What is never done to it.
    pub never: &'static [&'static str],
    /// The air that is there against VE-1; empty: not told.
    pub air: String,
    /// How it stands.
    pub air_condition: Severity,
    /// Rule and source of it.
    pub air_rule: String,
    /// Something about all sources together; empty: nothing.
    pub finishes: String,
    /// Switches, fuses, balancers and the like.
    pub fittings: Vec<String>,
    /// What is around the bank, and what that means.
    pub surroundings: Vec<Meaning>,
    /// How the cables go, in order.
    pub hook_up: Vec<String>,
    /// The technician's own numbers: address, number.
    pub own_numbers: Vec<Meaning>,
    /// What a source can be.
    pub source_kinds: Vec<EquipmentChoice>,
    /// What a fitting can be.
    pub fitting_kinds: Vec<EquipmentChoice>,
    /// What can be around.
    pub around: Vec<EquipmentChoice>,
}

/// Temperatures at which settings are looked at beside today's, °C: a cold and a hot electrolyte.
const SEASONS: [f64; 2] = [5.0, 40.0];

fn choices<T: Copy + Serialize>(all: &[T], said: impl Fn(T) -> &'static str) -> Vec<EquipmentChoice> {
    all.iter()
        .map(|own| {
            let value = serde_json::to_value(own).ok().and_then(|v| v.as_str().map(ToOwned::to_owned));
            EquipmentChoice { value: value.unwrap_or_default(), label: said(*own).to_owned() }
        })
        .collect()
}

/// The page of what stands at a bank.
pub fn equipment_page(context: &EqualizeContext, units: ReaderUnits) -> EquipmentPage {
    let own = &context.equipment.fitted.equipment;
    let counted = (context.bank.shape.cells_in_series(), context.bank.shape.parallel);
    let at = context.round_temperature.or_else(|| Temperature::from_celsius(ASSUMED).ok());
    let judged = |at: Temperature| judge_equipment(own, &context.model, counted, at);
    let now = at.map(|at| (at, judged(at)));
    let told = own.sources();
    let view = |i: usize| {
        let (at, judged) = now.as_ref()?;
        let audit = judged.sources.get(i)?.audit.as_ref();
        Some(SourceView {
            said: wording::source_line(told.get(i)?),
            now: audit.map(|a| AuditView::of(a, *at, units, "")),
        })
    };
    let first_told = told.len() > own.others.len();
    let first = if first_told { view(0) } else { None };
    let condition = first.as_ref().and_then(|f| f.now.as_ref()).map(|n| n.condition);
    let seasons = SEASONS
        .into_iter()
        .filter(|_| first_told)
        .filter_map(|celsius| Temperature::from_celsius(celsius).ok())
        .filter_map(|at| Some(AuditView::of(judged(at).sources.first()?.audit.as_ref()?, at, units, "")))
        .filter(|season| condition.is_some_and(|now| now != season.condition))
        .collect();
    let air = now.as_ref().and_then(|(_, judged)| judged.air);
    let limits = charge_limits(&context.model, &context.bank.shape);
    let limits = wording::charge_limit_lines(&limits, units).into_iter();
    EquipmentPage {
        limits: limits.map(|(name, meaning)| Meaning { name, meaning }).collect(),
        never: wording::never(context.model.construction),
        equipment: typed_equipment(&context.equipment, units),
        version: context.equipment.version,
        person: context.equipment.by.initials.clone(),
        first,
        seasons,
        others: (usize::from(first_told)..told.len()).filter_map(view).collect(),
        air: air.map(|air| wording::air_line(&air, units)).unwrap_or_default(),
        air_condition: air.map_or(Severity::NoReading, |air| air.condition),
        air_rule: format!("VE-1: {}. Local codes first.", RuleId::Ve1.source()),
        finishes: now
            .as_ref()
            .and_then(|(_, judged)| judged.none_finishes)
            .map(|why| wording::none_finishes(why).to_owned())
            .unwrap_or_default(),
        fittings: own.fittings.iter().map(wording::fitting_line).collect(),
        surroundings: own
            .surroundings
            .iter()
            .map(|place| wording::surroundings(*place))
            .map(|(name, meaning)| Meaning { name: wording::sentence(name), meaning: meaning.into() })
            .collect(),
        hook_up: own.hook_up.iter().map(wording::connection_line).collect(),
        own_numbers: context
            .bank
            .shape
            .batteries()
            .zip(&own.own_numbers)
            .filter(|(_, number)| !number.is_empty())
            .map(|(battery, number)| Meaning { name: battery.to_string(), meaning: number.clone() })
            .collect(),
        source_kinds: choices(&SourceKind::ALL, wording::source_kind),
        fitting_kinds: choices(&FittingKind::ALL, wording::fitting_kind),
        around: choices(&Surroundings::ALL, |own| wording::surroundings(own).0),
    }
}
