//! What a proof on record tells of a bank.

use super::super::subject::Subject;
use rainshadow_core::quantity::Temperature;
use rainshadow_core::runtime::{RuntimeAsked, RuntimeLoad, RuntimeProof};
use rainshadow_core::visit::Place;
use rainshadow_core::wording;

/// The last steady discharge of the whole bank, with what its end showed.
pub(super) fn last_proof(subject: &Subject) -> Option<(RuntimeProof, String)> {
    subject.discharges.iter().rev().find_map(|own| {
        if own.place != Place::Bank {
            return None;
        }
        let points: Vec<[f64; 2]> = own
            .now
            .points
            .iter()
            .filter(|p| p.under_load)
            .filter_map(|p| Some([p.hours, p.volts?]))
            .collect();
        // One that was timed by a watch has the volts of its batteries near the end, and nothing on the way.
        let mates = &own.now.mates;
        let all = mates.len() == usize::from(subject.shape.series) && subject.shape.parallel == 1;
        let noted = all.then(|| [own.now.elapsed, mates.iter().map(|own| own.volts).sum()]);
        let points = if points.is_empty() { noted.into_iter().collect() } else { points };
        let [hours, volts] = *points.last()?;
        let amperes = own.now.ampere_hours / own.now.elapsed.max(1e-6);
        let temperature = own.now.plan.temperature.map_or(25.0, Temperature::celsius);
        let readings = points[..points.len() - 1].to_vec();
        let proof = RuntimeProof { amperes, hours, volts, temperature, readings };
        (hours > 0.0 && amperes > 0.0).then(|| (proof, wording::short_day(own.day, subject.today)))
    })
}

/// The bank with nothing set but its load.
pub(super) fn bare(subject: &Subject, load: RuntimeLoad) -> RuntimeAsked {
    RuntimeAsked {
        model: subject.model.clone(),
        shape: subject.shape.clone(),
        load,
        inverter: None,
        temperature: 25.0,
        health: 100.0,
        health_range: None,
        charged: 100.0,
        depth: 100.0,
        exponent: None,
        alarm: None,
        empty: None,
    }
}
