<template><section /></template>
