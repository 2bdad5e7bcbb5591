//! What of the evidence counts on the day of a diagnosis, and what was measured whether it shows anything or not.

use super::{Evidence, Measurement};
use jiff::civil::Date;

/// Days after which a reading of its kind counts for nothing: what drifts with charge and water, and what only ages (our
/// choice, no source).
pub const READ_KEEPS: i32 = 400;
const TESTED_KEEPS: i32 = 800;

impl Evidence {
    /// What counts on the day of the diagnosis; later readings are left out too.
    pub(super) fn kept(&self) -> Self {
        let mut own = self.clone();
        if let Some(today) = self.today {
            let within = |day: Date, keeps: i32| {
                let days = (today - day).get_days();
                (0..=keeps).contains(&days)
            };
            own.rounds.retain(|r| within(r.day, READ_KEEPS));
            own.rest.retain(|r| within(r.day, READ_KEEPS));
            own.short_loads.retain(|r| within(r.day, READ_KEEPS));
            own.held.retain(|r| within(r.day, READ_KEEPS));
            own.distilled.retain(|r| within(r.day, READ_KEEPS));
            own.meter.retain(|r| within(r.day, READ_KEEPS));
            own.resistances.retain(|r| within(r.day, TESTED_KEEPS));
            // Older ones still tell how it fell, as long as the newest counts.
            let counts = own.discharges.iter().any(|r| within(r.day, TESTED_KEEPS));
            own.discharges.retain(|r| counts && r.day <= today);
        }
        own
    }

    /// What was measured, also where it is a sign of nothing: nobody is sent to measure that again.
    pub(super) fn measured(&self) -> impl Iterator<Item = Measurement> {
        let strings = self.strings.as_ref();
        let told = [
            // Read before it was full or settled, it is worth reading again.
            (self.rounds.iter().any(|read| read.proven_full), Measurement::Round),
            (!self.distilled.is_empty(), Measurement::DistilledWater),
            (self.rest.iter().any(|read| read.settled && read.proven_full), Measurement::RestVolts),
            (!self.meter.is_empty(), Measurement::MeterCheck),
            (!self.short_loads.is_empty(), Measurement::ShortLoad),
            (!self.held.is_empty(), Measurement::Holding),
            (self.water.is_some(), Measurement::WaterLog),
            (!self.resistances.is_empty(), Measurement::Ohmic),
            (!self.discharges.is_empty(), Measurement::Discharge),
            (self.record.is_some(), Measurement::Record),
            (self.settings.is_some(), Measurement::Settings),
            (strings.is_some_and(|own| own.joints_out.is_some()), Measurement::Joints),
            (strings.is_some_and(|own| !own.currents.is_empty()), Measurement::Currents),
            (strings.is_some_and(|own| own.to_case.is_some()), Measurement::Earth),
        ];
        told.into_iter().filter(|(made, _)| *made).map(|(_, measurement)| measurement)
    }
}
