//! Taking a file in: looked at whole, then written in one transaction, its photographs named after it.

use super::Imported;
use crate::app::judge_rounds::derive_missing;
use crate::app::typed::equipment::TypedEquipment;
use crate::db::Transaction;
use crate::db::{BankBundle, BankRow, DbError, Written, house_rules};
use crate::formats::bank_file::{BankFile, Fault, RoundFile, Staged, faults_of_bank, faults_of_round};
use crate::http::error::{ApiError, ApiResult, FieldError};
use crate::http::extract::told;
use crate::http::lengths;
use crate::http::state::AppState;
use crate::photos;
use rainshadow_core::house_rules::overridden;
use rainshadow_core::wording::stopped;
use serde::Deserialize;
use serde::de::DeserializeOwned;
use std::io::{BufReader, Read as _, Seek as _};

/// What kind of file it is.
#[derive(Deserialize)]
struct Kind {
    format: String,
}

/// The file from its beginning.
fn again(file: &mut std::fs::File) -> ApiResult<BufReader<&mut std::fs::File>> {
    file.rewind().map_err(DbError::from)?;
    Ok(BufReader::with_capacity(1 << 16, file))
}

fn read<T: DeserializeOwned>(file: &mut std::fs::File) -> ApiResult<T> {
    let mut json = serde_json::Deserializer::from_reader(again(file)?);
    told(serde_path_to_error::deserialize(&mut json))
}

fn none(faults: Vec<Fault>) -> ApiResult<()> {
    if faults.is_empty() {
        return Ok(());
    }
    let all = faults.into_iter().map(|(field, said)| FieldError { field, message: stopped(&said) });
    Err(ApiError::fields(all.collect()))
}

/// What two banks, or one bank twice, cannot both have is said and not an internal error.
fn taken(error: DbError) -> ApiError {
    match error.contradiction() {
        Some(why) => ApiError::field(
            "file",
            format!("The file contradicts itself or what is here already ({why}); nothing was taken in."),
        ),
        None => error.into(),
    }
}

/// Takes a spooled file in.
///
/// # Errors
/// [`ApiError`] with every field that does not fit; nothing of the file is kept then.
pub fn take(state: &AppState, mut file: std::fs::File) -> ApiResult<Imported> {
    let mut first = [0; 64];
    let begun = again(&mut file)?.read(&mut first).map_err(DbError::from)?;
    if first.iter().take(begun).all(u8::is_ascii_whitespace) {
        return Err(ApiError::field(
            "file",
            "The file is empty; a bank or round exported as JSON is expected.",
        ));
    }
    // The kind first: told apart by its contents, a fault inside could not be named by its field.
    let Kind { format } = read(&mut file)?;
    let long = lengths::faults_in(again(&mut file)?);
    if !long.is_empty() {
        return Err(ApiError::fields(long));
    }
    match format.as_str() {
        "rainshadow-bank/1" => {
            let (read, staged) = Staged::while_reading(state.db.folder(), || read::<BankFile>(&mut file));
            let done = read.and_then(|file| bank(state, file));
            match &done {
                Ok(_) => staged.name().map_err(DbError::from)?,
                Err(_) => staged.forget(),
            }
            done
        }
        "rainshadow-round/1" => round(state, read(&mut file)?),
        _ => Err(ApiError::field(
            "format",
            format!(
                "“{format}” is no format that is read here; accepted is rainshadow-bank/1 or rainshadow-round/1."
            ),
        )),
    }
}

fn bank(state: &AppState, mut file: BankFile) -> ApiResult<Imported> {
    let now = state.clock.now();
    none(faults_of_bank(&file, now))?;
    fitted_as_typed(&mut file)?;
    let pictured =
        |hash: &String| file.pictures.0.contains(hash) || photos::is_there(state.db.folder(), hash);
    let bare = file
        .visits
        .iter()
        .flat_map(|v| &v.photographs)
        .find(|p| !pictured(&p.hash) || !pictured(&p.small_hash));
    if let Some(photo) = bare {
        let said = format!("The photograph {} stands in a visit, and its bytes are missing.", photo.id);
        return Err(ApiError::field("pictures", said));
    }
    let stands = |hash: &String| {
        file.visits.iter().flat_map(|v| &v.photographs).any(|p| p.hash == *hash || p.small_hash == *hash)
    };
    if let Some(stray) = file.pictures.0.iter().find(|hash| !stands(hash)) {
        let said = format!("The photograph {stray} stands in no visit of the file.");
        return Err(ApiError::field("pictures", said));
    }
    let bundle = BankBundle::from(file);
    let bank = bundle.bank.0.clone();
    let written = state.db.write_now(|tx| {
        // Nothing is written yet: refusing here keeps nothing.
        if let Err(refused) = known_rules(tx, &bundle) {
            return Ok(Err(refused));
        }
        let written = bundle.take_in(tx, now)?;
        derive_missing(tx, &bank)?;
        // Before the next write, which judges by what is in memory.
        state.changed();
        Ok(Ok(written))
    });
    let written = written.map_err(taken)??;
    Ok(Imported { bank, new: written == Written::Created })
}

/// The equipment is worked out again from what was typed.
fn fitted_as_typed(file: &mut BankFile) -> ApiResult<()> {
    let cells = file.bank.body.shape.cells_in_series();
    for (place, own) in file.equipment.iter_mut().enumerate() {
        let field = format!("equipment[{place}].typed");
        let typed: TypedEquipment = serde_json::from_str(&own.typed)
            .map_err(|e| ApiError::field(&field, format!("{field}: {e}.")))?;
        own.fitted = typed.canonical(&file.model.figures, cells)?;
    }
    Ok(())
}

/// Own choices are choices of a set that is here.
fn known_rules(tx: &Transaction<'_>, bundle: &BankBundle) -> ApiResult<()> {
    let key = &bundle.bank.1.rules;
    let set = house_rules::latest_version(tx, key)
        .and_then(|version| house_rules::by_version(tx, key, version))
        .map_err(|_unknown| {
            ApiError::field(
                "bank.rules",
                format!("There is no house rule set “{key}” here; make it first, or change the file."),
            )
        })?;
    overridden(&set, &bundle.notes.overrides)
        .map(drop)
        .map_err(|e| ApiError::field("notes.overrides", stopped(&e.to_string())))
}

fn round(state: &AppState, file: RoundFile) -> ApiResult<Imported> {
    let now = state.clock.now();
    let bank = file.bank.clone();
    let done = state.db.write_now(|tx| {
        let shape = BankRow::by_id(tx, &bank)?.shape;
        if let Err(refused) = none(faults_of_round(&file, &shape, now)) {
            return Ok(Err(refused));
        }
        let (round, finished_by, readings) = file.into();
        let bundle = BankBundle::of(tx, &bank)?;
        let written =
            BankBundle { rounds: vec![(round, finished_by, readings)], ..bundle }.take_in(tx, now)?;
        derive_missing(tx, &bank)?;
        state.changed();
        Ok(Ok(written))
    });
    let written = done.map_err(taken)??;
    Ok(Imported { bank, new: written == Written::Created })
}
