//! The bank a plan is about: one of the books with its record, or one described on the spot.

use super::control::{Control, ControlKind, figure, group};
use super::failing::failing;
use super::typed::Typed;
use crate::app::records::judged::BankRecord;
use crate::app::refused::{AppError, AppResult};
use crate::app::rules::rules_of;
use crate::app::water_ahead::WaterAhead;
use crate::db::visit_entries::past_visits;
use crate::db::{BankRow, Connection, DbError, EquipmentRow, ModelRow, Site};
use jiff::civil::Date;
use rainshadow_core::bank::{BankShape, BatteryAddress};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::charging_record::ChargingRecordJudged;
use rainshadow_core::conductor::Cable;
use rainshadow_core::discharge::CapacityResult;
use rainshadow_core::equipment::Source;
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::life::{Gassing, GassingBy, RemainingLife, gassing, remaining_by_tests};
use rainshadow_core::quantity::bounds;
use rainshadow_core::schedule::Duty;
use rainshadow_core::visit::{Judged, PastDischarge, Place, capacities_by_day, kit_fills, past_discharges};
use rainshadow_core::water::WaterUse;
use rainshadow_core::wording;

/// A bank with what its record tells a planner.
pub struct Subject {
    /// Its row and site; none: it is not on the books.
    pub known: Option<(BankRow, Site)>,
    /// Its batteries.
    pub model: BatteryModel,
    /// How they stand.
    pub shape: BankShape,
    /// Its house rules.
    pub rules: HouseRules,
    /// Its timed discharges, oldest first.
    pub discharges: Vec<PastDischarge>,
    /// The battery that the last round, or all that is on record, speaks against most, and why; none: none.
    pub failing: Option<(BatteryAddress, String)>,
    /// What charges it.
    pub sources: Vec<Source>,
    /// Its links, as told; none: nobody did.
    pub link: Option<Cable>,
    /// True where it is filled through a watering kit.
    pub kit: bool,
    /// The last year of its charging record, and the days it is of; none: nothing is on record.
    pub record: Option<(ChargingRecordJudged, [Date; 2])>,
    /// What it drinks; none: nothing tells it.
    pub water: Option<WaterUse>,
    /// What its capacity tests tell of its end, and the day of the last of them; none: there are too few.
    pub remaining: Option<(RemainingLife, Date)>,
    /// Years in service; none: not known.
    pub years: Option<f64>,
    /// Today.
    pub today: Date,
}

/// A capacity with where it comes from.
pub struct Health {
    /// Per cent of C20.
    pub percent: f64,
    /// Between which it lies.
    pub range: Option<[f64; 2]>,
    /// Where it comes from.
    pub source: String,
}

/// The last year of the charging record of a bank, and the days it is of.
fn recorded(db: &Connection, bank: &BankRow) -> Result<Option<(ChargingRecordJudged, [Date; 2])>, DbError> {
    let Some(record) = BankRecord::of(db, bank)? else { return Ok(None) };
    let judged = record.last_year(db)?;
    Ok(judged.and_then(|own| {
        let days = [own.days.first()?.day, own.days.last()?.day];
        Some((own, days))
    }))
}

/// What timed discharges of the whole bank tell of its end.
fn remaining(discharges: &[PastDischarge], duty: Duty) -> Option<(RemainingLife, Date)> {
    let tests = capacities_by_day(discharges.iter().filter(|own| own.place == Place::Bank));
    let last = tests.last()?.day;
    Some((remaining_by_tests(&tests, duty).ok()?, last))
}

impl Subject {
    /// A bank of the books; which of its batteries is failing is looked for where one is replaced.
    pub fn of_bank(db: &Connection, id: &str, replaces: bool, today: Date) -> Result<Self, DbError> {
        let bank = BankRow::by_id(db, id)?;
        let site = Site::by_id(db, &bank.site_id)?;
        let model = ModelRow::by_id(db, &bank.model_id)?;
        let rules = rules_of(db, &bank)?;
        let visits = past_visits(db, &bank)?;
        let judged = Judged { shape: &bank.shape, model: &model, rules: &rules };
        let discharges = past_discharges(&visits, judged);
        let failing = if replaces { failing(db, &bank, &visits, today)? } else { None };
        let record = recorded(db, &bank)?;
        let equipment = EquipmentRow::of_bank(db, id)?.fitted.equipment;
        let ahead = WaterAhead::read(db, &bank, &site)?.forecast(&visits, &bank, &model, today);
        let remaining = remaining(&discharges, Duty::of(&bank.duty));
        Ok(Self {
            years: bank.months_in_service(today).map(|months| months / 12.0),
            shape: bank.shape.clone(),
            known: Some((bank, site)),
            failing,
            record,
            sources: equipment.sources(),
            link: equipment.wiring.link,
            kit: kit_fills(&visits).is_some(),
            water: ahead.map(|own| own.consumption).filter(|own| own.fills > 0),
            remaining,
            model,
            rules,
            discharges,
            today,
        })
    }

    /// A bank that is described on the spot, by its model.
    pub fn described(model: BatteryModel, typed: &mut Typed<'_>, today: Date) -> AppResult<Self> {
        let volts = typed.whole("system_voltage", bounds::SYSTEM_VOLTAGE);
        let strings = typed.whole("strings", bounds::PARALLEL);
        let years = typed.maybe("years", bounds::YEARS);
        std::mem::take(&mut typed.faults).none()?;
        let strings = u8::try_from(strings).unwrap_or(u8::MAX);
        let shape = BankShape::of_batteries(model.cells, volts, strings)
            .map_err(|e| AppError::refused("system_voltage", &e))?;
        Ok(Self {
            known: None,
            model,
            shape,
            rules: HouseRules::maker_first(),
            discharges: Vec::new(),
            failing: None,
            sources: Vec::new(),
            link: None,
            kit: false,
            record: None,
            water: None,
            remaining: None,
            years,
            today,
        })
    }

    /// What it begins with where it is described on the spot.
    pub fn controls(models: &[ModelRow]) -> Vec<Control> {
        let first = models.iter().find(|own| own.model.name.contains("6 V 420")).or(models.first());
        let begin = first.map_or(String::new(), |own| own.id.clone());
        let options = models.iter().map(|own| (own.id.clone(), own.model.name.clone()));
        group(
            "The bank",
            [
                Control::new(ControlKind::Choice, ("model", "Battery model"), begin, "the library")
                    .options(options),
                Control::new(ControlKind::Figure, ("system_voltage", "Bank"), "24", "typed").unit("V"),
                Control::new(ControlKind::Figure, ("strings", "Strings"), "1", "typed"),
                Control::new(ControlKind::Figure, ("years", "In service"), "", "empty: not known")
                    .unit("years"),
            ],
        )
    }

    /// Capacity by the last timed discharge of the whole bank.
    fn tested(&self) -> Option<Health> {
        let last = self.discharges.iter().rev().find_map(|own| {
            let result: &CapacityResult = own.now.result.as_ref()?;
            let percent = result.percent.filter(|_| !result.at_least)?;
            (own.place == Place::Bank).then_some((own.day, percent, result.range))
        })?;
        let (day, percent, range) = last;
        Some(Health {
            percent,
            range: range.filter(|own| own.iter().all(|end| end.is_finite())),
            source: format!("timed discharge of {}", wording::short_day(day, self.today)),
        })
    }

    /// Capacity that is left: by its last timed discharge, else what it is printed with.
    pub fn health(&self) -> Health {
        self.tested().unwrap_or_else(|| Health {
            percent: 100.0,
            range: None,
            source: "no timed discharge on record: taken as new".into(),
        })
    }

    /// The same as a control.
    pub fn health_control(&self) -> Control {
        let own = self.health();
        let range = own.range.map_or(String::new(), |[low, high]| format!("; {low:.0} to {high:.0}"));
        Control::new(
            ControlKind::Figure,
            ("health", "Capacity left"),
            figure(own.percent.round()),
            format!("{}{range}", own.source),
        )
        .unit("%")
    }

    /// How much more it gasses than when it was new.
    pub fn gassing(&self) -> Gassing {
        gassing(self.model.construction, self.years, self.water.as_ref())
    }

    /// The same as a control: told by its water, or empty and by whatever age is set.
    pub fn gassing_control(&self) -> Control {
        let own = self.gassing();
        let told = matches!(own.by, GassingBy::Water { .. });
        let begin = if told { figure((own.times * 10.0).round() / 10.0) } else { String::new() };
        Control::new(ControlKind::Figure, ("gassing", "It gasses"), begin, wording::gassing_by(&own))
            .unit("times a new one")
    }

    /// Years that its capacity tests leave it from today on: best, shortest, longest; none: they tell none.
    pub fn years_by_tests(&self) -> Option<[f64; 3]> {
        let (own, last) = self.remaining.as_ref()?;
        own.years_from(*last, self.today)
    }

    /// True south of the equator.
    pub fn southern(&self) -> bool {
        self.known.as_ref().is_some_and(|(_, site)| site.southern)
    }

    /// "High Pasture hut", or what it is made of.
    pub fn name(&self) -> String {
        match &self.known {
            Some((bank, site)) if bank.name.is_empty() => site.name.clone(),
            Some((bank, site)) => format!("{}, {}", site.name, bank.name),
            None => wording::describe_bank(&self.shape, &self.model),
        }
    }
}
