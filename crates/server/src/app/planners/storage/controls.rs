//! What a storage plan can be set to, and what it begins with.

use super::super::climate::{
    clearness_control, climate_begun, climate_controls, latitude_control, lows_of_climate,
};
use super::super::control::{Control, ControlKind, degrees, figure, group, several, typed_degrees};
use super::super::subject::Subject;
use jiff::civil::Date;
use rainshadow_core::quantity::units::TemperatureUnit;
use rainshadow_core::storage::{LOWS_UNDER_MEANS, usual_self_discharge};

/// Spell that is begun with where the bank tells no season: mid-October, and until May.
pub(super) const SPELL: [(i8, i8); 2] = [(10, 18), (5, 2)];

pub(super) fn next(day: (i8, i8), after: Date) -> Date {
    let on = |year: i16| Date::new(year, day.0, day.1).unwrap_or(after);
    if on(after.year()) > after { on(after.year()) } else { on(after.year() + 1) }
}

/// First and last day of the next spell.
pub(super) fn spell(subject: &Subject) -> ([Date; 2], String) {
    let season = subject.known.as_ref().and_then(|(bank, _)| bank.season());
    if let Some(own) = season {
        let closes = own.closes.after(subject.today.yesterday().unwrap_or(subject.today));
        let from = if own.stored(subject.today) { subject.today } else { closes };
        return ([from, own.opens.after(from)], "its season".into());
    }
    let opens = next(SPELL[1], subject.today);
    let closes = next(SPELL[0], subject.today);
    // In the midst of a winter it is left today.
    let from = if opens < closes { subject.today } else { closes };
    ([from, next(SPELL[1], from)], "our choice".into())
}

/// What it begins with.
pub(in crate::app::planners) fn controls(subject: &Subject, unit: TemperatureUnit) -> Vec<Control> {
    let ([from, until], season) = spell(subject);
    let years = subject.years.unwrap_or(0.0);
    let (loss, [least, most]) = usual_self_discharge(subject.model.construction, years);
    let age = subject.years.map_or("age not known".to_owned(), |own| format!("{own:.1} years old"));
    let health = subject.health_control();
    let bank = [
        Control::new(ControlKind::Day, ("from", "Left on"), from.to_string(), season.clone()),
        Control::new(ControlKind::Day, ("until", "Used again on"), until.to_string(), season),
        Control::new(ControlKind::Slider, ("charged", "Left at"), "100", "charged full first (SD-3)")
            .unit("% of charge")
            .range(20.0, 100.0, 5.0),
        health,
        Control::new(
            ControlKind::Figure,
            ("self_discharge", "Self-discharge"),
            figure((loss * 10.0).round() / 10.0),
            format!("SD-1, {age}; {least:.0} to {most:.0} usual"),
        )
        .unit("% a month at 25 \u{b0}C"),
        Control::new(
            ControlKind::Slider,
            ("tops", "Dirty, wet tops"),
            "0",
            "SD-1: 2 to 10 where they are; 0 cleaned",
        )
        .unit("% a month")
        .range(0.0, 10.0, 1.0),
        subject.gassing_control(),
    ];
    let air = climate_controls(subject, unit).into_iter().chain(nights(subject, unit));
    let mut all = group("The spell", bank);
    all.extend(group("The air", air));
    all.extend(group("Ways to leave it", ways_controls(subject, unit)));
    all
}

/// The coldest nights.
fn nights(subject: &Subject, unit: TemperatureUnit) -> Vec<Control> {
    let climate = climate_begun(subject);
    let known = lows_of_climate(subject, climate);
    let (begin, source) = match (&known, climate) {
        (Some(_), "own") => ("climate", "record lows of the site"),
        (Some(_), _) => ("climate", "those of an invented climate"),
        (None, _) => ("under", "not on record: our choice"),
    };
    let lows =
        known.map_or(String::new(), |own| several(own.celsius().iter().map(|low| typed_degrees(*low, unit))));
    vec![
        Control::new(ControlKind::Choice, ("lows_by", "Coldest on record"), begin, source).options([
            ("climate", "as the climate has it"),
            ("under", "so much under the mean"),
            ("own", "by month"),
        ]),
        Control::new(
            ControlKind::Figure,
            ("lows_under", "Under the mean of its month"),
            match unit {
                TemperatureUnit::Celsius => figure(LOWS_UNDER_MEANS),
                TemperatureUnit::Fahrenheit => figure((LOWS_UNDER_MEANS * 1.8).round()),
            },
            "our choice; type what the site has seen",
        )
        .unit(degrees(unit))
        .when("lows_by", &["under"]),
        Control::new(ControlKind::Months, ("lows", "Record low of the month"), lows, "typed")
            .unit(degrees(unit))
            .when("lows_by", &["own"]),
    ]
}

pub(super) fn ways_controls(subject: &Subject, unit: TemperatureUnit) -> Vec<Control> {
    let check = |key, label, value| Control::new(ControlKind::Check, (key, label), value, "");
    let figure_of = |key, label: &str, value: &str, source: &str| {
        Control::new(ControlKind::Figure, (key, label), value, source)
    };
    vec![
        check("disconnected", "Disconnect it", "yes"),
        check("on_loads", "Leave it on its loads", "no"),
        figure_of("draw", "They draw", "0.1", "typed; read it with a clamp")
            .unit("A")
            .when("on_loads", &["yes"]),
        check("on_array", "Leave it on the array", "yes"),
        figure_of("array_draw", "Controller and loads draw", "0.1", "typed; read it with a clamp")
            .unit("A")
            .when("on_array", &["yes"]),
        figure_of("watts", "Array", "400", "typed").unit("W").when("on_array", &["yes"]),
        figure_of("tilt", "Tilt", "45", "typed").unit("\u{b0}").when("on_array", &["yes"]),
        figure_of("azimuth", "Looks to", "180", "180 is south").unit("\u{b0}").when("on_array", &["yes"]),
        latitude_control(subject).when("on_array", &["yes"]),
        clearness_control().when("on_array", &["yes"]),
        Control::new(
            ControlKind::Months,
            ("snow", "Snow leaves, of the harvest"),
            "5 5 20 80 100 100 100 100 100 90 40 10",
            "our choice; type what you have seen",
        )
        .unit("%")
        .when("on_array", &["yes"]),
        check("maintained", "Keep it on a maintainer", "yes"),
        figure_of("maintainer_volts", "It holds", "", "empty: float of the model")
            .unit("V a cell")
            .when("maintained", &["yes"]),
        check("maintainer_follows", "It follows the temperature", "no").when("maintained", &["yes"]),
        check("indoors", "Carry it indoors", "no"),
        figure_of("indoors_mean", "Mean there", &typed_degrees(10.0, unit), "typed")
            .unit(degrees(unit))
            .when("indoors", &["yes"]),
        figure_of("indoors_low", "Coldest there", &typed_degrees(3.0, unit), "typed")
            .unit(degrees(unit))
            .when("indoors", &["yes"]),
    ]
}
