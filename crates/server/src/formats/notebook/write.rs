//! The notebook table as text.

use super::{Column, Field, Figure, TypedTemperature};
use rainshadow_core::bank::BankShape;
use rainshadow_core::quantity::units::TemperatureUnit;

/// Writes a table: as read, with the temperatures as typed.
///
/// # Errors
/// [`csv::Error`] when memory cannot be written to.
pub fn write(shape: &BankShape, columns: &[Column]) -> Result<String, csv::Error> {
    let mut table = csv::WriterBuilder::new().terminator(csv::Terminator::CRLF).from_writer(Vec::new());
    let mut row = |label: String, said: &dyn Fn(&Column) -> String| {
        table.write_record(std::iter::once(label).chain(columns.iter().map(said)))
    };
    row("cell".into(), &Column::heading)?;
    if columns.iter().any(|c| c.temperature.is_some()) {
        let said = |t: &TypedTemperature| {
            let unit = if t.unit == TemperatureUnit::Celsius { "C" } else { "F" };
            format!("{} {unit}", t.typed.replace(',', "."))
        };
        row("temperature".into(), &|c| c.temperature.as_ref().map(said).unwrap_or_default())?;
    }
    if columns.iter().any(|c| c.volts.is_some()) {
        row("volts".into(), &|c| c.volts.as_ref().map(Figure::said).unwrap_or_default())?;
    }
    if columns.iter().any(|c| c.water.is_some()) {
        row("water".into(), &|c| c.water.as_ref().map(Figure::said).unwrap_or_default())?;
    }
    for cell in shape.cells() {
        let said = |field: &Field| match field {
            Field::Gravity(sg, _) => sg.to_string(),
            Field::Below => "below".into(),
            Field::Above => "above".into(),
            Field::NotRead(reason) if reason.is_empty() => "not read".into(),
            Field::NotRead(reason) => format!("not read: {reason}"),
        };
        row(cell.to_string(), &|c| c.cells.get(&cell).map(said).unwrap_or_default())?;
    }
    let bytes = table.into_inner().map_err(|e| csv::Error::from(e.into_error()))?;
    Ok(String::from_utf8_lossy(&bytes).into_owned())
}
