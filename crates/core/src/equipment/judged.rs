//! The equipment of a bank as judged: every source by CH-3, the air by VE-1, and whether anything finishes a charge.

use super::{AirJudged, Equipment, Source, SourceKind, SourceRef, judge_air};
use crate::battery_model::BatteryModel;
use crate::charge::{SettingsAudit, Stage, settings_audit};
use crate::quantity::Temperature;
use crate::severity::Severity;
use crate::ventilation::{GassingBank, ventilation};
use serde::{Deserialize, Serialize};

/// Why no source that is told can finish a charge.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum NeverFinish {
    /// Alternators alone charge it.
    Alternators,
    /// Maintainers alone do.
    Maintainers,
    /// Alternators and maintainers do.
    Both,
}

/// One source as judged.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct JudgedSource {
    /// Which.
    pub source: SourceRef,
    /// What it is called; may be empty.
    pub name: String,
    /// Its settings; none: none was told.
    pub audit: Option<SettingsAudit>,
}

/// The equipment of a bank as judged.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct EquipmentJudged {
    /// Every source that was told, the first charger first.
    pub sources: Vec<JudgedSource>,
    /// The air; none: nothing was told of it.
    pub air: Option<AirJudged>,
    /// Why none of the sources that are told can finish a charge; none: one of them can, or not all are told.
    pub none_finishes: Option<NeverFinish>,
}

impl EquipmentJudged {
    /// One charger that was judged by itself.
    pub fn of_charger(audit: SettingsAudit) -> Self {
        let source = SourceRef { number: 1, kind: None, one_of_several: false };
        let sources = vec![JudgedSource { source, name: String::new(), audit: Some(audit) }];
        Self { sources, ..Self::default() }
    }

    /// The worst of it.
    pub fn condition(&self) -> Severity {
        let sources = self.sources.iter().filter_map(|own| Some(own.audit.as_ref()?.condition));
        let air = self.air.map(|air| air.condition);
        let finishes = self.none_finishes.map(|_| Severity::Watch);
        sources.chain(air).chain(finishes).max().unwrap_or(Severity::NoReading)
    }
}

pub(super) fn referred(sources: &[Source]) -> impl Iterator<Item = (SourceRef, &Source)> {
    (1..).zip(sources).map(|(number, own)| {
        let one_of_several = sources.iter().filter(|s| s.kind == own.kind).count() > 1;
        (SourceRef { number, kind: own.kind, one_of_several }, own)
    })
}

/// Judges the equipment of a bank of so many cells in series and strings at a temperature.
pub fn judge_equipment(
    equipment: &Equipment,
    model: &BatteryModel,
    (cells, strings): (u16, u8),
    at: Temperature,
) -> EquipmentJudged {
    let all = equipment.sources();
    let sources = referred(&all)
        .map(|(source, own)| JudgedSource {
            source,
            name: own.name.clone(),
            audit: settings_audit(model, cells, at, &own.settings).ok(),
        })
        .collect();
    let air = |stage| {
        ventilation(&GassingBank {
            construction: model.construction,
            cells,
            capacity: model.c20.ampere_hours() * f64::from(strings),
            stage,
            current: None,
            enclosure: equipment.enclosure,
        })
        .ok()
    };
    let air = air(Stage::Equalize)
        .zip(air(Stage::Float))
        .and_then(|(boost, float)| judge_air(equipment.vents, boost, float));
    EquipmentJudged { sources, air, none_finishes: never_finish(&all) }
}

fn never_finish(all: &[Source]) -> Option<NeverFinish> {
    let told: Vec<SourceKind> = all.iter().map(|own| own.kind).collect::<Option<_>>()?;
    let any = |kind| told.contains(&kind);
    match (any(SourceKind::Alternator), any(SourceKind::Maintainer)) {
        _ if told.iter().any(|kind| kind.finishes()) => None,
        (true, true) => Some(NeverFinish::Both),
        (true, false) => Some(NeverFinish::Alternators),
        (false, true) => Some(NeverFinish::Maintainers),
        (false, false) => None,
    }
}
