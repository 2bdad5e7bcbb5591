//! The air and the light of a site, as planners begin with them.

use super::control::{Control, ControlKind, degrees, several, typed_degrees};
use super::subject::Subject;
use super::typed::Typed;
use rainshadow_core::quantity::units::TemperatureUnit;
use rainshadow_core::water::{INVENTED_CLIMATES, InventedClimate, MonthlyMeans};

/// Light of a clear sky that gets through on a mean day, where nobody knows better (our choice, no source).
pub(super) const CLEARNESS: f64 = 0.55;
/// Key of the climate that is begun with where a site has none.
const FIRST_CLIMATE: &str = "cold_inland";

/// Twelve means as controls: the site's own, or those of an invented climate.
pub(super) fn climate_controls(subject: &Subject, unit: TemperatureUnit) -> Vec<Control> {
    let own = subject.known.as_ref().and_then(|(_, site)| site.climate);
    let begin = if own.is_some() { "own" } else { FIRST_CLIMATE };
    let source = if own.is_some() { "climate of the site" } else { "no climate of the site is known" };
    let invented =
        INVENTED_CLIMATES.iter().map(|own| (own.key.to_owned(), format!("{} (invented)", own.name)));
    let options = [("own".to_owned(), "means by month".to_owned())].into_iter().chain(invented);
    let southern = subject.southern();
    let first = InventedClimate::by_key(FIRST_CLIMATE).map(|own| own.means(southern));
    let means = own.or(first).map(|own| own.celsius()).unwrap_or_default();
    let typed = several(means.iter().map(|own| typed_degrees(*own, unit)));
    vec![
        Control::new(ControlKind::Choice, ("climate", "Air outside"), begin, source).options(options),
        Control::new(ControlKind::Months, ("means", "Mean of the month"), typed, source)
            .unit(degrees(unit))
            .when("climate", &["own"]),
    ]
}

/// The means that are set.
pub(super) fn means(subject: &Subject, typed: &mut Typed<'_>) -> Option<MonthlyMeans> {
    let southern = subject.southern();
    match typed.text("climate") {
        "own" | "" => {
            let own = typed.months_of_degrees("means");
            typed.faults.take("means", MonthlyMeans::try_from(own))
        }
        key => {
            let found = InventedClimate::by_key(key).map(|own| own.means(southern));
            typed.faults.take("climate", found.ok_or(format!("there is no climate \u{201c}{key}\u{201d}")))
        }
    }
}
