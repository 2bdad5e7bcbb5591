//! Taking a file in: looked at whole, then written in one transaction, its photographs named after it.

use super::Imported;
use crate::app::bank_files::{take_bank, take_round};
use crate::app::refused::AppError;
use crate::app::typed::equipment::TypedEquipment;
use crate::db::{BankBundle, DbError, Written};
use crate::formats::bank_file::{BankFile, Fault, RoundFile, Staged, faults_of_bank, faults_of_round};
use crate::http::error::{ApiError, ApiResult, FieldError};
use crate::http::extract::told;
use crate::http::lengths;
use crate::http::state::AppState;
use crate::photos;
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
    let new = take_bank(state, &bundle)? == Written::Created;
    Ok(Imported { bank: bundle.bank.0, new })
}

/// The equipment is worked out again from what was typed.
fn fitted_as_typed(file: &mut BankFile) -> ApiResult<()> {
    let shape = &file.bank.body.shape;
    let counted = (shape.cells_in_series(), shape.batteries().count(), shape.parallel);
    for (place, own) in file.equipment.iter_mut().enumerate() {
        let field = format!("equipment[{place}].typed");
        let typed: TypedEquipment = serde_json::from_str(&own.typed)
            .map_err(|e| ApiError::field(&field, format!("{field}: {e}.")))?;
        own.fitted = typed.canonical(&file.model.figures, counted)?;
    }
    Ok(())
}

fn round(state: &AppState, file: RoundFile) -> ApiResult<Imported> {
    let (now, bank) = (state.clock.now(), file.bank.clone());
    let written = take_round(state, &bank, |shape| {
        let faults = faults_of_round(&file, shape, now);
        if faults.is_empty() { Ok(file.into()) } else { Err(AppError::Fields { faults, said: None }) }
    })?;
    Ok(Imported { bank, new: written == Written::Created })
}
